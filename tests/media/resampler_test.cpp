#include "media/resampler.h"

#include <cmath>
#include <gtest/gtest.h>
#include <numbers>

namespace wirenote {
namespace {

struct Rates {
    double from_hz;
    double to_hz;
};
void PrintTo(const Rates& r, std::ostream* out) {
    *out << r.from_hz << " to " << r.to_hz;
}
class Resampling : public ::testing::TestWithParam<Rates> {};
INSTANTIATE_TEST_SUITE_P(Rates,
                         Resampling,
                         ::testing::Values(Rates{44100, 22050},
                                           Rates{48000, 44100},
                                           Rates{8000, 22050},
                                           Rates{96000, 44100},
                                           Rates{44100, 44100}));

TEST_P(Resampling, KeepsLengthPlaceAndPitchInBlocksOfAnySize) {
    const auto [from_hz, to_hz] = GetParam();
    std::vector<float> in;
    for (int i = 0; i < static_cast<int>(from_hz); ++i) // a second of 440 Hz, from 0.25 s on
        in.push_back(i < from_hz / 4 ? 0.0F
                                     : static_cast<float>(0.5 * std::sin(2.0 * std::numbers::pi *
                                                                         440.0 * i / from_hz)));
    auto resampler = Resampler::make(from_hz, to_hz, 1);
    ASSERT_TRUE(resampler.ok());
    std::vector<float> out;
    std::size_t block = 1;
    for (std::size_t at = 0; at < in.size(); at += block, block = block * 3 % 4099 + 1)
        resampler->add(std::span(in).subspan(at, std::min(block, in.size() - at)), out);
    resampler->finish(out);
    EXPECT_NEAR(static_cast<double>(out.size()), to_hz, 40.0);
    double worst = 0.0;
    for (auto i = static_cast<std::size_t>(0.4 * to_hz); i < static_cast<std::size_t>(0.9 * to_hz);
         ++i)
        worst = std::max(worst,
                         std::abs(out[i] - 0.5 * std::sin(2.0 * std::numbers::pi * 440.0 *
                                                          static_cast<double>(i) / to_hz)));
    EXPECT_LT(worst, 0.01) << "the same wave at the same time";
    for (auto i = std::size_t{0}; i < static_cast<std::size_t>(0.24 * to_hz); ++i)
        ASSERT_LT(std::abs(out[i]), 0.01F) << i;
}

} // namespace
} // namespace wirenote
