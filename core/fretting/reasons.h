#pragma once

#include "fretting/solver.h"

namespace wirenote {

// The finger on its own is a guess while only one rule is known; no finger is given more than this.
constexpr double kFingerTrust = 0.6;

// Why the note at `index` was placed where it is: at most three reasons, weightiest first.
std::vector<Reason> reasonsFor(const Instrument& instrument,
                               std::span<const LineNote> line,
                               std::span<const LinePlacement> placements,
                               std::size_t index);

} // namespace wirenote
