// What stands over the music, and under it.
#pragma once

#include "engraving/block.h"
#include "engraving/measures.h"
#include "score/sheet.h"

namespace wirenote {

// Title, subtitle, names, source, tuning, metre, and the grips of the chords; from y = 0 down, over
// the whole width.
void drawHead(
    const Piece& piece, const Sheet& sheet, const Measures& m, double width, Block& block);

// What the signs mean that this sheet has, as lines that fit the width; and how many doubts are
// open.
std::vector<std::string>
footLines(const Piece& piece, const Sheet& sheet, const Measures& m, double width);

} // namespace wirenote
