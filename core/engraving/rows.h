// What stands in rows over and under the staves: strokes, fingers, count; positions, chords, names.
#pragma once

#include "engraving/block.h"
#include "engraving/system_context.h"

namespace wirenote {

// How wide the strokes and fingers of a value are, in mm.
double rowWidth(const Piece& piece, const Value& value, const Measures& m);
// "1", or "(&)" where nothing sounds.
std::string countText(const CountMark& mark);

// Under the tab, from the staff outwards: strokes, fingers (or a lane for each finger), count.
void drawRowsUnder(const SystemContext& system, Block& block);
// Over the uppermost staff: positions and barres, chords, endings, sections and tempi, bar numbers.
void drawRowsOver(const SystemContext& system, Block& block);

} // namespace wirenote
