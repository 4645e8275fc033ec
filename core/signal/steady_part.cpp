#include "signal/steady_part.h"

#include <algorithm>
#include <array>

namespace wirenote {
namespace {

template <std::size_t N> float medianOf(std::array<float, N>& values) {
    std::nth_element(values.begin(), values.begin() + N / 2, values.end());
    return values[N / 2];
}

} // namespace

void steadyShares(std::span<const std::span<const float>> powers, std::span<float> shares) {
    constexpr float kSilence = 1e-12F;
    const std::span<const float> middle = powers[kSteadySpectra / 2];
    const auto bins = static_cast<std::ptrdiff_t>(middle.size());
    constexpr auto kWide = static_cast<std::ptrdiff_t>(kSteadyBins);
    std::array<float, kSteadySpectra> in_time{};
    std::array<float, 2 * kSteadyBins + 1> in_frequency{};
    for (std::ptrdiff_t b = 0; b < bins; ++b) {
        for (std::size_t k = 0; k < kSteadySpectra; ++k)
            in_time[k] = powers[k][static_cast<std::size_t>(b)];
        for (std::ptrdiff_t d = -kWide; d <= kWide; ++d)
            in_frequency[static_cast<std::size_t>(d + kWide)] =
                middle[static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(b + d, 0, bins - 1))];
        const float steady = medianOf(in_time);
        const float struck = medianOf(in_frequency);
        shares[static_cast<std::size_t>(b)] =
            (steady + kSilence) / (steady + struck + 2.0F * kSilence);
    }
}

} // namespace wirenote
