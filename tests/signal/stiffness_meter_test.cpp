// The stiffness of a string from its sound, against strings whose stiffness is known.
#include "signal/stiffness_meter.h"

#include "support/tones.h"

#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr double kRate = 22050.0;

struct StringRow {
    const char* name;
    double f0_hz;
    double b; // of f_n = n·f0·√(1 + B·n²) (Fletcher 1964)
};
void PrintTo(const StringRow& row, std::ostream* out) {
    *out << row.name;
}

class Strings : public ::testing::TestWithParam<StringRow> {
  protected:
    Sound pluck(double length_s, double noise) const {
        Sound sound = test::silence(1.5, kRate);
        test::addTone(sound, {0.1, length_s, GetParam().f0_hz, 0.2, GetParam().b, 1.2, 0.0, 24});
        test::addNoise(sound, noise);
        return sound;
    }
};
INSTANTIATE_TEST_SUITE_P(All,
                         Strings,
                         ::testing::Values(StringRow{"low_e_wound", 82.41, 6.0e-5},
                                           StringRow{"a_at_five", 146.83, 1.1e-4},
                                           StringRow{"g_plain", 196.0, 1.2e-4},
                                           StringRow{"b_plain", 246.94, 5.0e-5},
                                           StringRow{"high_e", 329.63, 2.2e-5},
                                           StringRow{"high_e_at_twelve", 659.26, 5.5e-5},
                                           StringRow{"bass_e", 41.2, 1.2e-4}),
                         [](const auto& row) { return std::string(row.param.name); });

TEST_P(Strings, AreMeasuredToATenthFromTheirWholeSound) {
    const Sound sound = pluck(1.2, 0.0002);
    StiffnessMeter meter(sound.view());
    const auto fit = meter.measure({0.12, 0.52}, GetParam().f0_hz * 1.003);
    ASSERT_TRUE(fit.told());
    EXPECT_NEAR(fit.log_b, std::log(GetParam().b), 0.1);
    EXPECT_LT(fit.sd, 0.25);
    EXPECT_NEAR(1200.0 * std::log2(fit.f0_hz / GetParam().f0_hz), 0.0, 1.0);
}

TEST_P(Strings, AreMeasuredRoughlyFromATwelfthOfASecond) {
    if (GetParam().f0_hz < 60.0)
        GTEST_SKIP() << "three periods of a bass string tell nothing";
    const Sound sound = pluck(0.12, 0.0002);
    StiffnessMeter meter(sound.view());
    const auto fit = meter.measure({0.115, 0.2}, GetParam().f0_hz);
    if (fit.told()) { // or says nothing
        EXPECT_NEAR(fit.log_b, std::log(GetParam().b), std::max(0.4, 3.0 * fit.sd));
    }
}

TEST_P(Strings, AreMeasuredInNoiseWithAnHonestDeviation) {
    const Sound sound = pluck(1.2, 0.006);
    StiffnessMeter meter(sound.view()); // about 25 dB below
    const auto fit = meter.measure({0.12, 0.52}, GetParam().f0_hz);
    if (fit.told()) {
        EXPECT_NEAR(fit.log_b, std::log(GetParam().b), std::max(0.3, 3.0 * fit.sd));
    }
}

TEST_P(Strings, AreMeasuredUnderAnotherNote) {
    Sound sound = pluck(1.2, 0.0002);
    const double other_hz = GetParam().f0_hz * std::exp2(5.0 / 12.0);
    test::addTone(sound, {0.1, 1.2, other_hz, 0.2, 8e-5, 1.2, 0.0, 20});
    StiffnessMeter meter(sound.view());
    const double others[] = {other_hz};
    const auto fit = meter.measure({0.12, 0.52}, GetParam().f0_hz, others);
    if (fit.told()) {
        EXPECT_NEAR(fit.log_b, std::log(GetParam().b), std::max(0.5, 3.0 * fit.sd));
    }
}

TEST(StiffnessMeter, SaysNothingWhereThereIsNothingToSay) {
    Sound sound = test::silence(1.0, kRate);
    test::addNoise(sound, 0.05);
    StiffnessMeter noise(sound.view());
    EXPECT_FALSE(noise.measure({0.2, 0.6}, 196.0).told());
    Sound pure = test::silence(1.0, kRate);
    test::addTone(pure, {0.1, 0.8, 196.0, 0.3, 0.0, 1.0, 0.0, 2});
    StiffnessMeter two(pure.view());
    EXPECT_FALSE(two.measure({0.2, 0.6}, 196.0).told()) << "two partials are no law";
    Sound harmonic = test::silence(1.0, kRate);
    test::addTone(harmonic, {0.1, 0.8, 196.0, 0.3, 0.0, 1.0, 0.0, 20});
    StiffnessMeter whole(harmonic.view());
    EXPECT_FALSE(whole.measure({0.2, 0.6}, 196.0).told()) << "whole multiples: no string at all";
    EXPECT_FALSE(whole.measure({0.2, 0.22}, 196.0).told()) << "too short";
    EXPECT_FALSE(whole.measure({0.2, 0.6}, 0.0).told());
}

TEST(StiffnessMeter, APartialThatIsAnothersIsThrownOut) {
    Sound sound = test::silence(1.0, kRate);
    test::addTone(sound, {0.1, 0.8, 110.0, 0.3, 8e-5, 1.0, 0.0, 16});
    test::addTone(sound, {0.1, 0.8, 110.0 * 7.02, 0.2, 0.0, 1.0, 0.0, 1}); // sharp of partial 7
    StiffnessMeter meter(sound.view());
    const auto fit = meter.measure({0.15, 0.55}, 110.0);
    ASSERT_TRUE(fit.told());
    EXPECT_NEAR(fit.log_b, std::log(8e-5), 0.15);
}

} // namespace
} // namespace wirenote
