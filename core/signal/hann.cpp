#include "signal/hann.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wirenote {

void putHann(SoundView sound, std::ptrdiff_t first, std::ptrdiff_t length, std::span<float> out) {
    std::ranges::fill(out, 0.0F);
    length = std::min(length, static_cast<std::ptrdiff_t>(out.size()));
    const auto total = static_cast<std::ptrdiff_t>(sound.samples.size());
    for (std::ptrdiff_t i = std::max<std::ptrdiff_t>(0, -first);
         i < std::min(length, total - first);
         ++i)
        out[static_cast<std::size_t>(i)] = static_cast<float>(
            sound.samples[static_cast<std::size_t>(first + i)] *
            (0.5 - 0.5 * std::cos(2.0 * std::numbers::pi * (static_cast<double>(i) + 0.5) /
                                  static_cast<double>(length))));
}

} // namespace wirenote
