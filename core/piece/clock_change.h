// The clock of a take replaced by that of another copy of the same performance.
#pragma once

#include "base/time_range.h"

#include <cstddef>

namespace wirenote {

struct Piece;

// The new second of an old one is at_zero_s + rate · it; rate > 0.
struct ClockChange {
    double at_zero_s = 0.0;
    double rate = 1.0;
    double of(double old_s) const { return at_zero_s + rate * old_s; }
    TimeRange of(TimeRange old) const { return {of(old.start_s), of(old.end_s)}; }
};

// Everything that the piece says in seconds of that take, said in seconds of the new clock. Of the
// leading take (0) that is the clock of the piece. Notes are left where they come to lie, also
// outside the recording.
void changeClock(Piece& piece, std::size_t take, const ClockChange& clock);

} // namespace wirenote
