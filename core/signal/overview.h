#pragma once

#include "base/sound.h"

#include <vector>

namespace wirenote {

// Lowest and highest sample of equal stretches of a sound, for drawing it at any zoom.
struct Overview {
    double step_s = 0.0; // length of one stretch
    std::vector<float> lowest;
    std::vector<float> highest;
};

Overview overviewOf(SoundView sound, double step_s);

} // namespace wirenote
