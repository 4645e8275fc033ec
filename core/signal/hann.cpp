#include "signal/hann.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <vector>

namespace wirenote {

namespace {

// The window of the length last asked for by this thread: most are of the same few lengths.
const std::vector<float>& hann(std::ptrdiff_t length) {
    thread_local std::vector<float> window;
    if (static_cast<std::ptrdiff_t>(window.size()) == length)
        return window;
    window.resize(static_cast<std::size_t>(length));
    for (std::size_t i = 0; i < window.size(); ++i)
        window[i] = static_cast<float>(
            0.5 - 0.5 * std::cos(2.0 * std::numbers::pi * (static_cast<double>(i) + 0.5) /
                                 static_cast<double>(length)));
    return window;
}

} // namespace

void putHann(SoundView sound, std::ptrdiff_t first, std::ptrdiff_t length, std::span<float> out) {
    std::ranges::fill(out, 0.0F);
    length = std::clamp<std::ptrdiff_t>(length, 0, static_cast<std::ptrdiff_t>(out.size()));
    const auto& window = hann(length);
    const auto total = static_cast<std::ptrdiff_t>(sound.samples.size());
    for (std::ptrdiff_t i = std::max<std::ptrdiff_t>(0, -first);
         i < std::min(length, total - first);
         ++i)
        out[static_cast<std::size_t>(i)] = sound.samples[static_cast<std::size_t>(first + i)] *
                                           window[static_cast<std::size_t>(i)];
}

} // namespace wirenote
