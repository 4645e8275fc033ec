// Written by tools/training/learn_slurs.py; not to be edited.
#pragma once

#include <array>

namespace wirenote {

// By figure (SlurFigures).
inline constexpr std::array<double, 6> kSlurWeights = {
    0.67988, -0.07826, -0.71891, -0.26003, -0.6447, 0};
inline constexpr double kSlurOdds = 0.23881;
inline constexpr std::array<double, 6> kBassSlurWeights = {
    0.61309, 0.014546, 0.019847, -0.2435, -0.54726, 0.18961};
inline constexpr double kBassSlurOdds = 0.79584;

} // namespace wirenote
