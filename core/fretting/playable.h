// Strokes that one hand can hold.
#pragma once

#include "fretting/solver.h"

#include <span>
#include <vector>

namespace wirenote {

// Where the notes of one stroke cannot be held together as they are placed (two on a string, wider
// than a hand, an open string under a barre), the likeliest places that can; a note for which none
// is left with the others has no place (LinePlacement::possible false, out_of_hand true). Places
// that are fixed stay. As many placements as notes, in their order.
void makePlayable(const Instrument& instrument,
                  std::span<const LineNote> line,
                  std::vector<LinePlacement>& placements);

} // namespace wirenote
