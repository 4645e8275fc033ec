// Dynamics, fermatas, signs to jump by and words, as a person put them beside the notes.
#pragma once

#include "engraving/block.h"
#include "engraving/system_context.h"

namespace wirenote {

// Under all rows: levels as letters, getting louder and softer as opening and closing lines,
// through as many systems as they last.
void drawDynamics(const SystemContext& system, Block& block);
// Over the staff, each at its note: fermatas next to it, then signs and words.
void drawMarksOver(const SystemContext& system, Block& block);

} // namespace wirenote
