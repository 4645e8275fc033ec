// The staff in notation over the tab.
#pragma once

#include "engraving/block.h"
#include "engraving/system_context.h"

namespace wirenote {

void drawNotationStaff(const SystemContext& system, Block& block);
// What clef and key take at the left end of every system.
double clefRoom(const Piece& piece, const Measures& m);

} // namespace wirenote
