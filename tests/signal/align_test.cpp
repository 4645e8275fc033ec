#include "signal/align.h"

#include "signal/chroma.h"
#include "signal/overview.h"
#include "support/tones.h"

#include <atomic>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr double kRate = 22050.0;

// A tune that repeats nothing for its length: pitches by a long walk, lengths uneven.
Sound tune(double speed, double start_s, double semitones, int notes = 40) {
    Sound sound = test::silence(start_s + 0.45 * notes / speed + 1.0, kRate);
    std::uint32_t state = 11;
    double t = start_s;
    int midi = 57;
    for (int k = 0; k < notes; ++k) {
        state = state * 1664525U + 1013904223U;
        midi = std::clamp(midi + static_cast<int>((state >> 16U) % 9) - 4, 45, 76);
        const double length = (0.25 + 0.1 * ((state >> 24U) % 3)) / speed;
        test::addTone(sound,
                      {t, length * 0.95, 440.0 * std::exp2((midi + semitones - 69) / 12.0), 0.3});
        t += length;
    }
    return sound;
}

TEST(Chroma, ATransposedToneIsAlikeWhenTurned) {
    const auto low = chromaOf(tune(1.0, 0.2, 0.0).view(), 440.0, {});
    const auto high = chromaOf(tune(1.0, 0.2, 3.0).view(), 440.0, {});
    ASSERT_TRUE(low.ok() && high.ok());
    double turned = 0.0;
    double straight = 0.0;
    const std::size_t frames = std::min(low->sounding.size(), high->sounding.size());
    for (std::size_t i = 20; i < frames; ++i) {
        turned += alike(low->sounding[i], high->sounding[i], 3);
        straight += alike(low->sounding[i], high->sounding[i], 0);
    }
    EXPECT_GT(turned, 2.0 * std::max(1.0, straight));
}

TEST(Chroma, SilenceIsLikeNothingAndCancelsAtOnce) {
    const auto silent = chromaOf(test::silence(1.0, kRate).view(), 440.0, {});
    ASSERT_TRUE(silent.ok());
    for (const Chroma& frame : silent->sounding)
        EXPECT_DOUBLE_EQ(alike(frame, frame), 0.0);
    std::atomic<bool> stop{true};
    JobControl job;
    job.cancel = &stop;
    EXPECT_EQ(chromaOf(test::silence(1.0, kRate).view(), 440.0, job).error().kind,
              ErrorKind::Cancelled);
    const Sound sound = tune(1.0, 0.2, 0.0, 10);
    EXPECT_EQ(alignSounds(sound.view(), 440.0, sound.view(), 440.0, job).error().kind,
              ErrorKind::Cancelled);
}

struct Pair {
    const char* name;
    double speed;
    double start_s;
    double semitones;
};
void PrintTo(const Pair& pair, std::ostream* out) {
    *out << pair.name;
}
class Aligned : public ::testing::TestWithParam<Pair> {};
INSTANTIATE_TEST_SUITE_P(Tunes,
                         Aligned,
                         ::testing::Values(Pair{"the_same", 1.0, 0.5, 0.0},
                                           Pair{"much_later", 1.0, 7.5, 0.0},
                                           Pair{"slower_and_higher", 0.7, 2.0, 4.0},
                                           Pair{"faster_and_lower", 1.4, 0.3, -5.0}),
                         [](const auto& row) { return std::string(row.param.name); });

TEST_P(Aligned, MomentsFallOnTheSamePlaceWithinTwentyMilliseconds) {
    const Pair p = GetParam();
    const auto fit = alignSounds(
        tune(1.0, 0.5, 0.0).view(), 440.0, tune(p.speed, p.start_s, p.semitones).view(), 440.0, {});
    ASSERT_TRUE(fit.ok());
    ASSERT_GE(fit->moments.size(), 5U);
    EXPECT_EQ(fit->semitones, static_cast<int>(p.semitones));
    EXPECT_GT(fit->certainty, 0.8);
    for (std::size_t i = 1; i + 1 < fit->moments.size(); ++i)
        EXPECT_NEAR(fit->moments[i].b_s, p.start_s + (fit->moments[i].a_s - 0.5) / p.speed, 0.020)
            << i;
}

TEST(Alignment, OfNothingIsNothing) {
    const auto fit = alignSounds(
        test::silence(5.0, kRate).view(), 440.0, tune(1.0, 0.5, 0.0, 10).view(), 440.0, {});
    ASSERT_TRUE(fit.ok());
    EXPECT_TRUE(fit->moments.empty());
}

TEST(Overview, HasABoundHoweverLongTheSound) {
    OverviewBuilder builder(1000.0, 0.001); // a stretch a sample
    std::vector<float> block(50000, 0.25F);
    for (int k = 0; k < 12; ++k) {
        block[static_cast<std::size_t>(k)] = -0.75F;
        builder.add(block);
        block[static_cast<std::size_t>(k)] = 0.25F;
    }
    const Overview overview = builder.overview();
    EXPECT_LE(overview.lowest.size(), OverviewBuilder::kMostSteps);
    EXPECT_NEAR(overview.length_s(), 600.0, 1.0);
    EXPECT_EQ(std::count(overview.lowest.begin(), overview.lowest.end(), -0.75F), 12)
        << "no dip is lost";
    EXPECT_NEAR(overview.power, 0.0625, 1e-3);
}

} // namespace
} // namespace wirenote
