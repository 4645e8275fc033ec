#pragma once

#include <span>
#include <vector>

namespace wirenote {

// Spectra looked at together, and bins on either side.
constexpr std::size_t kSteadySpectra = 11;
constexpr std::size_t kSteadyBins = 12;

// What share of each bin keeps its pitch: partials are lines along time, drums and knocks lines
// along frequency, and a median along one removes the other. `powers` are the power spectra of
// kSteadySpectra frames one after the other, all of one size; the shares are of the middle one,
// 0..1. D. FitzGerald, "Harmonic/percussive separation using median filtering", DAFx 2010, with
// soft masks.
void steadyShares(std::span<const std::span<const float>> powers, std::span<float> shares);

} // namespace wirenote
