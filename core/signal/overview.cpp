#include "signal/overview.h"

#include <algorithm>

namespace wirenote {

Overview overviewOf(SoundView sound, double step_s) {
    Overview overview;
    if (sound.rate_hz <= 0.0)
        return overview;
    const auto step = static_cast<std::size_t>(std::max(1.0, step_s * sound.rate_hz));
    overview.step_s = static_cast<double>(step) / sound.rate_hz;
    for (std::size_t at = 0; at < sound.samples.size(); at += step) {
        const auto block = sound.samples.subspan(at, std::min(step, sound.samples.size() - at));
        const auto [low, high] = std::minmax_element(block.begin(), block.end());
        overview.lowest.push_back(*low);
        overview.highest.push_back(*high);
    }
    return overview;
}

} // namespace wirenote
