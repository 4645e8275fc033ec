#pragma once

#include "hearing/pitch_evidence.h"

#include <array>

namespace wirenote {

// The probability that this pitch begins at the attack, by its evidence: a small network learned
// from invented takes, rendered from sampled and simulated instruments (tools/training).
double beliefIn(const AttackPitch& candidate);

// Its weights, row by row (one row a unit), and what each unit adds. Written by
// tools/training/learn_belief.py.
constexpr std::size_t kBelief1 = 24;
constexpr std::size_t kBelief2 = 12;
extern const std::array<float, kPitchEvidence * kBelief1> kBeliefWeights1;
extern const std::array<float, kBelief1> kBeliefBias1;
extern const std::array<float, kBelief1 * kBelief2> kBeliefWeights2;
extern const std::array<float, kBelief2> kBeliefBias2;
extern const std::array<float, kBelief2> kBeliefWeights3;
extern const std::array<float, 1> kBeliefBias3;

} // namespace wirenote
