// What keeps its pitch is told from what is struck. FitzGerald, DAFx 2010: partials are lines along
// time, drums lines along frequency.
#include "signal/steady_part.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr std::size_t kBins = 400;

std::vector<std::vector<float>> quiet() {
    return {kSteadySpectra, std::vector<float>(kBins, 1e-6F)};
}

std::vector<float> sharesOf(const std::vector<std::vector<float>>& powers) {
    std::vector<std::span<const float>> views(powers.begin(), powers.end());
    std::vector<float> shares(kBins);
    steadyShares(views, shares);
    return shares;
}

TEST(SteadyPart, KeepsAPartialThatGoesOn) {
    auto powers = quiet();
    for (auto& frame : powers)
        frame[100] = 1.0F;
    EXPECT_GT(sharesOf(powers)[100], 0.99F);
}

TEST(SteadyPart, TakesAKnockAway) {
    auto powers = quiet();
    std::fill(powers[kSteadySpectra / 2].begin(), powers[kSteadySpectra / 2].end(), 1.0F);
    EXPECT_LT(sharesOf(powers)[100], 0.01F);
}

TEST(SteadyPart, KeepsAPartialUnderAKnock) {
    auto powers = quiet();
    for (auto& frame : powers)
        frame[100] = 20.0F;
    for (float& v : powers[kSteadySpectra / 2])
        v += 1.0F;
    const auto shares = sharesOf(powers);
    EXPECT_GT(shares[100], 0.9F);
    EXPECT_LT(shares[200], 0.01F);
}

TEST(SteadyPart, SilenceIsNoDivisionByNought) {
    std::vector<std::vector<float>> powers(kSteadySpectra, std::vector<float>(kBins, 0.0F));
    for (const float share : sharesOf(powers)) {
        EXPECT_GE(share, 0.0F);
        EXPECT_LE(share, 1.0F);
    }
}

} // namespace
} // namespace wirenote
