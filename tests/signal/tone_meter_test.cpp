// Losses, combs and tilts of strings whose law is known.
#include "signal/tone_meter.h"

#include "support/tones.h"

#include <cmath>
#include <gtest/gtest.h>
#include <numbers>

namespace wirenote {
namespace {

constexpr double kRate = 22050.0;

// A plucked string: partial n has the strength |sin(π·n·r)|·n^tilt and loses c + d·n² dB a second
// (Fletcher & Rossing, The Physics of Musical Instruments, ch. 2; losses: Valette & Cuesta).
struct Law {
    const char* name;
    double f0_hz;
    double b;
    double c;
    double d;
    double comb;
};
void PrintTo(const Law& law, std::ostream* out) {
    *out << law.name;
}

void addPlucked(Sound& sound, const Law& law, double start_s, double length_s, double level = 0.2) {
    constexpr double kTiltPower = -1.0;
    for (int n = 1; n <= 24; ++n) {
        const double f = n * law.f0_hz * std::sqrt(1.0 + law.b * n * n);
        if (f > 0.45 * sound.rate_hz)
            break;
        const double strength =
            level * std::abs(std::sin(std::numbers::pi * n * law.comb)) * std::pow(n, kTiltPower);
        const double loss_db_s = law.c + law.d * n * n;
        const auto first = static_cast<std::size_t>(start_s * sound.rate_hz);
        const auto count = static_cast<std::size_t>(length_s * sound.rate_hz);
        for (std::size_t i = 0; i < count && first + i < sound.samples.size(); ++i) {
            const double t = static_cast<double>(i) / sound.rate_hz;
            sound.samples[first + i] +=
                static_cast<float>(strength * std::pow(10.0, -loss_db_s * t / 20.0) *
                                   std::sin(2.0 * std::numbers::pi * f * t + 0.7 * n));
        }
    }
}

const std::vector<Law> kLaws{{"low_wound", 82.41, 6e-5, 8.0, 0.10, 0.19},
                             {"wound_at_seven", 146.83, 1.1e-4, 11.0, 0.35, 0.27},
                             {"plain", 246.94, 5e-5, 12.0, 0.6, 0.13},
                             {"high", 329.63, 2.2e-5, 14.0, 1.3, 0.24},
                             {"nylon", 329.63, 1e-5, 26.0, 3.0, 0.2},
                             {"bass", 41.2, 1.2e-4, 6.0, 0.03, 0.12}};

class Plucked : public ::testing::TestWithParam<Law> {};
INSTANTIATE_TEST_SUITE_P(All, Plucked, ::testing::ValuesIn(kLaws), [](const auto& row) {
    return std::string(row.param.name);
});

TEST_P(Plucked, LossesAndCombAreRead) {
    const Law& law = GetParam();
    Sound sound = test::silence(1.5, kRate);
    addPlucked(sound, law, 0.1, 1.2);
    test::addNoise(sound, 0.0002);
    ToneMeter meter(sound.view());
    const ToneFit fit = meter.measure({0.12, 0.8}, law.f0_hz, law.b);
    ASSERT_TRUE(fit.decay_low.told());
    EXPECT_NEAR(fit.decay_low.value, std::log(law.c + law.d), 0.1);
    ASSERT_TRUE(fit.decay_high.told());
    EXPECT_NEAR(fit.decay_high.value, std::log(law.c + 36.0 * law.d), 0.1);
    // Of nylon up there too few partials live to tell one place from all others.
    ASSERT_TRUE(fit.comb.told() || law.d >= 3.0);
    if (fit.comb.told()) {
        EXPECT_NEAR(fit.comb.value, std::log(law.comb), 0.07);
    }
    ASSERT_TRUE(fit.tilt.told());
    if (law.d < 1.0) { // else the high partials are half gone when the look begins
        EXPECT_NEAR(fit.tilt.value, -6.0, 2.5) << "one over n is 6 dB an octave";
    }
}

// A quarter of a second under noise 25 dB below the note: what is told holds within three of its
// own deviations.
TEST_P(Plucked, UnderNoiseWhatIsToldHolds) {
    const Law& law = GetParam();
    Sound sound = test::silence(1.0, kRate);
    addPlucked(sound, law, 0.1, 0.3);
    double power = 0.0;
    for (std::size_t i = 2205; i < 2205 + 6615; ++i)
        power += static_cast<double>(sound.samples[i]) * sound.samples[i] / 6615.0;
    test::addNoise(sound, std::sqrt(power) * std::pow(10.0, -25.0 / 20.0));
    ToneMeter meter(sound.view());
    const ToneFit fit = meter.measure({0.12, 0.39}, law.f0_hz, law.b);
    const auto holds = [](const Measure& m, double truth, double besides) {
        if (m.told()) {
            EXPECT_NEAR(m.value, truth, 3.0 * std::hypot(m.sd, besides));
        }
    };
    holds(fit.decay_low, std::log(law.c + law.d), 0.05);
    holds(fit.decay_high, std::log(law.c + 36.0 * law.d), 0.05);
    holds(fit.comb, std::log(law.comb), 0.03);
    EXPECT_TRUE(fit.decay_low.told() || fit.decay_high.told() || law.f0_hz < 60.0);
}

TEST(ToneMeter, AnotherStringIsKeptClearOf) {
    const Law& law = kLaws[2];
    Sound sound = test::silence(1.5, kRate);
    addPlucked(sound, law, 0.1, 1.2);
    addPlucked(sound, kLaws[0], 0.1, 1.2);
    ToneMeter meter(sound.view());
    const std::vector<double> others{kLaws[0].f0_hz};
    const ToneFit fit = meter.measure({0.12, 0.9}, law.f0_hz, law.b, others);
    if (fit.decay_high.told()) {
        EXPECT_NEAR(fit.decay_high.value, std::log(law.c + 36.0 * law.d), 0.3);
    }
    // An octave below covers every partial: nothing is said.
    const std::vector<double> octave{law.f0_hz / 2.0};
    const ToneFit covered = meter.measure({0.12, 0.9}, law.f0_hz, 0.0, octave);
    EXPECT_FALSE(covered.decay_low.told());
    EXPECT_FALSE(covered.comb.told());
}

TEST(ToneMeter, SilenceNoiseAndShortSoundsSayNothing) {
    const Sound silent = test::silence(1.0, kRate);
    ToneMeter meter(silent.view());
    EXPECT_FALSE(meter.measure({0.1, 0.6}, 220.0, 5e-5).decay_low.told());
    EXPECT_FALSE(meter.measure({0.1, 0.6}, 220.0, 5e-5).comb.told());
    EXPECT_FALSE(meter.measure({0.1, 0.6}, 0.0, 5e-5).tilt.told());
    Sound noise = test::silence(1.0, kRate);
    test::addNoise(noise, 0.1);
    ToneMeter noise_meter(noise.view());
    EXPECT_FALSE(noise_meter.measure({0.1, 0.6}, 220.0, 5e-5).decay_low.told());
    Sound brief = test::silence(1.0, kRate);
    addPlucked(brief, kLaws[2], 0.1, 0.5);
    ToneMeter brief_meter(brief.view());
    EXPECT_FALSE(brief_meter.measure({0.12, 0.2}, 246.94, 5e-5).decay_low.told());
}

// A sound that does not die (an organ, a held bow) is no string that was plucked.
TEST(ToneMeter, WhatDoesNotDieHasNoLoss) {
    Sound sound = test::silence(1.0, kRate);
    Law steady = kLaws[2];
    steady.c = steady.d = 0.0;
    addPlucked(sound, steady, 0.1, 0.9);
    ToneMeter meter(sound.view());
    EXPECT_FALSE(meter.measure({0.12, 0.9}, steady.f0_hz, steady.b).decay_low.told());
}

} // namespace
} // namespace wirenote
