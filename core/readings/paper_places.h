// Where bars stand on the pages of a score that was pinned to them.
#pragma once

#include "piece/piece.h"

#include <optional>

namespace wirenote {

// A place on a page, as shares of its width and height.
struct PaperPlace {
    int page = 0;
    double x = 0.0;
    double y = 0.0;
};

// Where a moment stands: `bar` with the part of it that is over (3.5: in the middle of bar 3). Bars
// between two pins of one line share the way between them; behind the last pin of a line they share
// what is left of it, by how many bars the next line's pin says it has. Before the first pin there
// is none; behind the last one bars are as wide as those before them, or it is the last pin.
std::optional<PaperPlace> placeOnPaper(const PaperScore& paper, double bar);

// The bar that a click on a page is most likely meant for: the one behind the last that is pinned;
// 1 where none is.
int nextBarToPin(const PaperScore& paper);

} // namespace wirenote
