// Where a hand that holds a pick gives it up for all its fingers, and takes it again.
#pragma once

#include "plucking/plucked_line.h"

#include <vector>

namespace wirenote {

struct ToolChange {
    std::size_t attack = 0; // of the line: the first one struck otherwise
    bool tucked = false;    // the pick goes away; else it comes back
    double time_s = 0.0;    // that there is for it, from the stroke before
};

// By the strokes that the rows have. Middle, ring and little finger play beside a pick; thumb and
// index finger hold it, so that what they strike needs it tucked away (common practice).
std::vector<ToolChange> toolChanges(const PluckedLine& line);

} // namespace wirenote
