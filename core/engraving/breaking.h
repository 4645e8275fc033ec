// Which bars share a line, and which lines a page.
#pragma once

#include "engraving/columns.h"

#include <vector>

namespace wirenote {

// First bars of the systems, from what the bars want: no line pressed together or pulled apart more
// than it must be, and no last line of one bar alone (all lines weighed together: Knuth & Plass,
// "Breaking paragraphs into lines", Software: Practice and Experience 11, 1981). `first_room`,
// `room`: what the columns of the first and of other systems have.
std::vector<std::size_t>
breakLines(const std::vector<SetBar>& bars, double first_room, double room, const Measures& m);

// How much ideal room must be stretched so that these bars fill a width.
double spreadFor(const std::vector<SetBar>& bars, std::size_t from, std::size_t to, double width);

// A system as a page sees it.
struct SystemHeight {
    double height = 0.0;
    bool ends_with_rest = false; // time to turn a page
};
// First systems of the pages. A page that is turned (the second of a pair, or every one that is not
// the last on a screen) ends with a rest where that costs little room.
std::vector<std::size_t> breakPages(const std::vector<SystemHeight>& systems,
                                    double first_room,
                                    double room,
                                    double gap,
                                    bool every_page_turns);

} // namespace wirenote
