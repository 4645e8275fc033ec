// The lines of the tab with what stands on them and belongs to single notes.
#pragma once

#include "engraving/block.h"
#include "engraving/system_context.h"

namespace wirenote {

// Lines, bar lines, names of strings, metre signs, numbers, ties, slurs and slides between them,
// and the rhythm where no other staff has it.
void drawTabStaff(const SystemContext& system, Block& block, bool rhythm);
// The middle of a metre sign of so many mm a space, before the columns of a bar; and its width.
double tabMetreSpace(const Piece& piece, const Measures& m);
double metreWidth(const Metre& metre, double space);
void drawMetre(Block& block, const Metre& metre, double right, double middle, double space);
// Over the tab: bends, vibrato, palm mutes and what else is done to notes.
void drawTechniques(const SystemContext& system, Block& block);

// Bar lines and repeat signs over any staff between two heights; `dots`: the middles of the two
// gaps that the dots of a repeat stand in.
void drawBarLines(const SystemContext& system,
                  Block& block,
                  double top,
                  double bottom,
                  std::pair<double, double> dots);

} // namespace wirenote
