// Where an alternating thumb leaves out a beat.
#pragma once

#include "piece/piece.h"

#include <vector>

namespace wirenote {

// A beat on which the thumb was expected and struck nothing: dropped, or struck and not heard.
struct ThumbGap {
    double time_s = 0.0;
    int bar = 1;
    int beat = 0;   // in the bar, from 0
    int string = 0; // on which it was expected, as two beats before or after; 0: unknown
};

// Between the first and the last stroke of a thumb that alternates (PluckingSchool::Thumb), by the
// strokes of this reading. Empty for other schools.
std::vector<ThumbGap> thumbGaps(const Piece& piece, std::size_t reading = 0);

} // namespace wirenote
