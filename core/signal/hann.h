#pragma once

#include "base/sound.h"

#include <cstddef>
#include <span>

namespace wirenote {

// Writes `length` samples of the sound from `first` on under a Hann window to the front of `out`,
// and silence to the rest of it; outside the sound there is silence. At most out.size() samples.
void putHann(SoundView sound, std::ptrdiff_t first, std::ptrdiff_t length, std::span<float> out);

} // namespace wirenote
