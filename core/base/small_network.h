// A network with one hidden layer, as tools/training writes it.
#pragma once

#include <algorithm>
#include <array>
#include <cstddef>

namespace wirenote {

// The logarithm of the odds that it gives to these figures: each is held against its mean and
// scatter, no further out than four of it; `first` by figure, then by hidden unit.
template <std::size_t Figures, std::size_t Hidden>
double networkOdds(const std::array<float, Figures>& figures,
                   const std::array<float, Figures>& means,
                   const std::array<float, Figures>& scatter,
                   const std::array<float, Figures * Hidden>& first,
                   const std::array<float, Hidden>& first_bias,
                   const std::array<float, Hidden>& last,
                   float last_bias) {
    constexpr float kFurthest = 4.0F;
    std::array<float, Hidden> hidden = first_bias;
    for (std::size_t f = 0; f < Figures; ++f) {
        const float seen = std::clamp((figures[f] - means[f]) / scatter[f], -kFurthest, kFurthest);
        for (std::size_t h = 0; h < Hidden; ++h)
            hidden[h] += seen * first[f * Hidden + h];
    }
    float odds = last_bias;
    for (std::size_t h = 0; h < Hidden; ++h)
        odds += std::max(0.0F, hidden[h]) * last[h];
    return static_cast<double>(odds);
}

} // namespace wirenote
