#include "signal/overview.h"
#include "signal/spectral_flux.h"
#include "support/tones.h"

#include <algorithm>
#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr double kRate = 22050.0;

std::vector<OnsetPeak> onsetsOf(const Sound& sound) {
    const auto flux = spectralFlux(sound.view(), {}, {});
    return pickOnsets(*flux, {});
}

TEST(Onsets, SilenceHasNone) {
    EXPECT_TRUE(onsetsOf(test::silence(1.0, kRate)).empty());
}

TEST(Onsets, EachAttackIsFoundWithinTenMilliseconds) {
    Sound sound = test::silence(3.0, kRate);
    const std::vector<double> starts = {0.3, 0.8, 1.05, 1.3, 2.2};
    for (std::size_t i = 0; i < starts.size(); ++i)
        test::addTone(sound, {starts[i], 0.24, 196.0 * (i % 2 == 0 ? 1.0 : 1.5), 0.4});
    test::addNoise(sound, 0.0005);
    const auto found = onsetsOf(sound);
    ASSERT_EQ(found.size(), starts.size());
    for (std::size_t i = 0; i < starts.size(); ++i)
        EXPECT_NEAR(found[i].time_s, starts[i], 0.010);
}

TEST(Onsets, RepeatedNotesOnOnePitchAreSeparateAttacks) {
    Sound sound = test::silence(2.0, kRate);
    for (int i = 0; i < 8; ++i)
        test::addTone(sound, {0.1 + 0.2 * i, 0.21, 220.0, 0.4}); // each rings into the next
    EXPECT_EQ(onsetsOf(sound).size(), 8U);
}

TEST(Onsets, VibratoIsNoAttack) {
    Sound sound = test::silence(2.5, kRate);
    test::addTone(sound, {0.2, 2.0, 330.0, 0.4, 0.0, 0.5, 40.0, 8});
    test::addNoise(sound, 0.0005);
    EXPECT_EQ(onsetsOf(sound).size(), 1U);
}

// What sounds when a recording starts did not start then.
TEST(Onsets, CutOffBeginningIsNoAttack) {
    Sound sound = test::silence(1.0, kRate);
    test::addTone(sound, {0.0, 0.9, 220.0, 0.4});
    Sound cut{{sound.samples.begin() + 4000, sound.samples.end()}, kRate};
    EXPECT_TRUE(onsetsOf(cut).empty());
}

// Attacks used to be measured against the strongest moments of the whole recording: of real tracks
// of three minutes up to 98 % were lost. What happens elsewhere must not silence a line.
struct Disturbance {
    const char* name;
    void (*add)(Sound& sound, double at_s);
};

void addClicks(Sound& sound, double at_s) {
    for (int k = 0; k < 4; ++k)
        for (int i = 0; i < 120; ++i)
            sound.samples[static_cast<std::size_t>((at_s + 0.5 * k) * kRate) +
                          static_cast<std::size_t>(i)] = i % 2 == 0 ? 0.95F : -0.95F;
}

void addShout(Sound& sound, double at_s) {
    unsigned state = 7;
    for (int i = 0; i < static_cast<int>(kRate); ++i) {
        state = state * 1664525U + 1013904223U;
        sound.samples[static_cast<std::size_t>(at_s * kRate) + static_cast<std::size_t>(i)] =
            static_cast<float>(state >> 8U) / static_cast<float>(1U << 23U) - 1.0F;
    }
}

void addHardChord(Sound& sound, double at_s) {
    for (const double hz : {82.4, 123.5, 164.8, 207.7, 246.9, 329.6})
        test::addTone(sound, {at_s, 1.5, hz, 0.16});
}

class DisturbedOnsets : public ::testing::TestWithParam<Disturbance> {};

TEST_P(DisturbedOnsets, WhatHappensElsewhereSilencesNoAttack) {
    Sound sound = test::silence(40.0, kRate);
    std::vector<double> starts;
    for (int i = 0; i < 100; ++i) {
        starts.push_back(8.0 + 0.3 * i);
        test::addTone(sound, {starts.back(), 0.29, i % 2 == 0 ? 220.0 : 246.9, 0.01});
    }
    GetParam().add(sound, 2.0);
    std::size_t found = 0;
    const auto onsets = onsetsOf(sound);
    for (const double start : starts)
        found += std::ranges::any_of(
            onsets, [start](const OnsetPeak& o) { return std::abs(o.time_s - start) < 0.02; });
    EXPECT_GE(found, 99U);
}

INSTANTIATE_TEST_SUITE_P(Elsewhere,
                         DisturbedOnsets,
                         ::testing::Values(Disturbance{"clicks", addClicks},
                                           Disturbance{"shout", addShout},
                                           Disturbance{"hard_chord", addHardChord}),
                         [](const auto& row) { return std::string(row.param.name); });

// A cut from digital silence lets the noise of the recording begin: everything grows, to nothing.
TEST(Onsets, NoiseThatBeginsAfterDigitalSilenceIsNoAttack) {
    Sound sound = test::silence(6.0, kRate);
    Sound noise = test::silence(4.0, kRate);
    test::addNoise(noise, 0.001);
    std::ranges::copy(noise.samples, sound.samples.begin() + static_cast<int>(2.0 * kRate));
    for (int i = 0; i < 8; ++i)
        test::addTone(sound, {2.6 + 0.3 * i, 0.29, 220.0, 0.4});
    const auto onsets = onsetsOf(sound);
    ASSERT_EQ(onsets.size(), 8U);
    EXPECT_NEAR(onsets.front().time_s, 2.6, 0.02);
}

TEST(Flux, ReportsProgressInRisingOrder) {
    const Sound sound = test::silence(20.0, kRate);
    std::vector<double> reported;
    JobControl job;
    job.progress = [&reported](double done_s, double total_s) {
        reported.push_back(done_s);
        EXPECT_NEAR(total_s, 20.0, 0.01);
    };
    ASSERT_TRUE(spectralFlux(sound.view(), {}, job).ok());
    ASSERT_GT(reported.size(), 3U);
    EXPECT_TRUE(std::is_sorted(reported.begin(), reported.end()));
}

TEST(Overview, HoldsTheExtremesOfEveryStretch) {
    const Sound sound{{0.0F, 0.5F, -0.2F, 0.1F, -0.9F}, 1000.0};
    OverviewBuilder builder(sound.rate_hz, 0.002);
    builder.add(sound.samples);
    const Overview overview = builder.overview();
    ASSERT_EQ(overview.highest.size(), 3U);
    EXPECT_FLOAT_EQ(overview.highest[0], 0.5F);
    EXPECT_FLOAT_EQ(overview.lowest[1], -0.2F);
    EXPECT_FLOAT_EQ(overview.lowest[2], -0.9F);
}

} // namespace
} // namespace wirenote
