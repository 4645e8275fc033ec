#pragma once

#include "fretting/solver.h"

namespace wirenote {

// Why the note at `index` was placed where it is: at most three reasons, weightiest first.
std::vector<Reason> reasonsFor(const Instrument& instrument,
                               std::span<const LineNote> line,
                               std::span<const LinePlacement> placements,
                               std::size_t index);

} // namespace wirenote
