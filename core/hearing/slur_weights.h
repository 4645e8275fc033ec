// Written by tools/training/learn_slurs.py; not to be edited.
#pragma once

#include <array>

namespace wirenote {

// By figure (SlurFigures).
inline constexpr std::array<double, 5> kSlurWeights = {
    0.68024, -0.086551, -0.71773, -0.28096, -0.6498};
inline constexpr double kSlurOdds = 0.21725;

} // namespace wirenote
