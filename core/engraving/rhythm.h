// The rhythm of a tab that has no staff above it: stems and beams beside it, rests on it.
#pragma once

#include "engraving/block.h"
#include "engraving/system_context.h"

namespace wirenote {

// One voice: stems under the tab, rests among its lines. Two: the upper one's stems and rests over
// it, the lower one's under it.
void drawRhythm(const SystemContext& system, Block& block);

} // namespace wirenote
