#include "hearing/note_belief.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

template <std::size_t In, std::size_t Out>
std::array<float, Out> layer(const std::array<float, In>& in,
                             const std::array<float, In * Out>& weights,
                             const std::array<float, Out>& bias) {
    std::array<float, Out> out = bias;
    for (std::size_t o = 0; o < Out; ++o)
        for (std::size_t i = 0; i < In; ++i)
            out[o] += weights[o * In + i] * in[i];
    return out;
}

template <std::size_t N> std::array<float, N> rectified(std::array<float, N> values) {
    for (float& v : values)
        v = std::max(v, 0.0F);
    return values;
}

} // namespace

double beliefIn(const AttackPitch& candidate) {
    std::array<float, kPitchEvidence> evidence{};
    std::ranges::transform(
        candidate.evidence, evidence.begin(), [](double v) { return static_cast<float>(v); });
    const auto first = rectified(layer(evidence, kBeliefWeights1, kBeliefBias1));
    const auto second = rectified(layer(first, kBeliefWeights2, kBeliefBias2));
    const float odds = layer<kBelief2, 1>(second, kBeliefWeights3, kBeliefBias3)[0];
    return 1.0 / (1.0 + std::exp(-static_cast<double>(odds)));
}

} // namespace wirenote
