// Over which strings one stroke goes, and which of them must be silent.
#pragma once

#include "plucking/plucked_line.h"

#include <optional>
#include <vector>

namespace wirenote {

struct StrumShape {
    int first = 0;           // string that is met first …
    int last = 0;            // … and last
    std::vector<int> damped; // between them and without a note, or dead: the thickest first
    bool arm = false;        // three strings and more: from the elbow; else the wrist turns
    double spread_s = 0.0;   // from the first string to the last
};

// Of an attack that is struck down or up over two strings and more; nothing for others. A stroke
// over three strings and more is the arm's, one string the wrist's (common practice).
std::optional<StrumShape> strumShape(const PluckedLine& line, std::size_t attack);

} // namespace wirenote
