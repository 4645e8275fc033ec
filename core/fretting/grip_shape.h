// What the grip of a stroke has in common with others.
#pragma once

#include "hand/usual_grips.h"
#include "piece/reading.h"

#include <optional>

namespace wirenote {

struct GripShape {
    std::optional<int> moved; // frets up from the grip before, whose shape it has; never 0
    std::optional<OpenGrip> like;
};
// Of the stroke that a note is of. Nothing for a single note, or a row that is not there.
GripShape gripShape(const Instrument& instrument, const Rows& rows, std::size_t row);

} // namespace wirenote
