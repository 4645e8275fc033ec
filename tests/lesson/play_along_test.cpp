// What is played along with is where it is written.
#include "lesson/play_along.h"
#include "support/pieces.h"

#include <gtest/gtest.h>

#include <cmath>

namespace wirenote {
namespace {

// The first sample of a rise, at most so far from where it is expected.
double attackNear(const Sound& sound, double at_s) {
    constexpr double kReach_s = 0.02;
    const auto from = static_cast<std::size_t>(std::max(0.0, at_s - kReach_s) * sound.rate_hz);
    const auto to =
        std::min(sound.samples.size(), static_cast<std::size_t>((at_s + kReach_s) * sound.rate_hz));
    float before = 0.0F;
    for (std::size_t i = from > 400 ? from - 400 : 0; i < from; ++i)
        before = std::max(before, std::abs(sound.samples[i]));
    for (std::size_t i = from; i < to; ++i)
        if (std::abs(sound.samples[i]) > before + 0.05F)
            return static_cast<double>(i) / sound.rate_hz;
    return -1.0;
}

// Played unevenly, at 120 a minute.
Piece uneven() {
    std::vector<test::Row> rows;
    for (int i = 0; i < 8; ++i) {
        const double at_s = 0.5 * i + (i % 3 == 1 ? 0.03 : -0.0);
        rows.push_back({at_s, at_s + 0.3, 60, {2, 1}});
    }
    return test::pieceOf(rows);
}

TEST(PlayAlong, EveryBeatIsWithinTwoMilliseconds) {
    const Piece piece = uneven();
    const LessonFacts facts(piece);
    for (const double tempo : {0.6, 0.8, 1.0}) {
        PlayAlongOptions options;
        options.from = Rational(0);
        options.to = Rational(8);
        options.tempo = tempo;
        options.instrument = false;
        const auto made = playAlong(facts, options, {});
        ASSERT_TRUE(made.ok());
        ASSERT_EQ(made->beats_s.size(), 12U); // a bar of count and two bars
        for (std::size_t i = 0; i < made->beats_s.size(); ++i) {
            const double expected_s = static_cast<double>(i) * 0.5 / tempo;
            EXPECT_NEAR(made->beats_s[i], expected_s, 1e-6);
            EXPECT_NEAR(attackNear(made->sound, expected_s), expected_s, 0.002)
                << tempo << " " << i;
        }
        EXPECT_NEAR(made->sound.length_s(), 12 * 0.5 / tempo, 0.001);
    }
}

// Notes stand where they are written, not where they were played.
TEST(PlayAlong, NotesAreOnTheirWrittenPlaces) {
    const Piece piece = uneven();
    const LessonFacts facts(piece);
    PlayAlongOptions options;
    options.from = Rational(0);
    options.to = Rational(8);
    options.click = false;
    options.tempo = 0.5;
    const auto made = playAlong(facts, options, {});
    ASSERT_TRUE(made.ok());
    for (int i = 0; i < 8; ++i)
        EXPECT_NEAR(attackNear(made->sound, 4.0 + 1.0 * i), 4.0 + 1.0 * i, 0.002) << i;
}

// Needs N153: the click's unit follows from the note values that occur. Common practice.
TEST(PlayAlong, TheClickFallsOnEighthsWhereTheMusicHasThemAndIsSlow) {
    std::vector<test::Row> rows;
    for (int i = 0; i < 8; ++i)
        rows.push_back({0.25 * i, 0.25 * i + 0.2, 60, {2, 1}});
    const Piece eighths = test::pieceOf(rows);
    const LessonFacts facts(eighths);
    EXPECT_EQ(clicksPerBeat(facts, Rational(0), Rational(4), 60.0), 2);
    EXPECT_EQ(clicksPerBeat(facts, Rational(0), Rational(4), 120.0), 1);
    const Piece quarters = uneven();
    EXPECT_EQ(clicksPerBeat(LessonFacts(quarters), Rational(0), Rational(4), 60.0), 1);
}

TEST(PlayAlong, RoundsFollowEachOtherWithoutAGap) {
    const Piece piece = uneven();
    const LessonFacts facts(piece);
    PlayAlongOptions options;
    options.from = Rational(0);
    options.to = Rational(4);
    options.times = 3;
    options.drums = true;
    options.bass = true;
    const auto made = playAlong(facts, options, {});
    ASSERT_TRUE(made.ok());
    EXPECT_EQ(made->beats_s.size(), 4U + 12U);
    EXPECT_NEAR(made->sound.length_s(), 8.0, 0.001);
    float peak = 0.0F;
    for (const float v : made->sound.samples)
        peak = std::max(peak, std::abs(v));
    EXPECT_LE(peak, 0.71F);
    EXPECT_GT(peak, 0.5F);
}

TEST(PlayAlong, AStretchWithoutLengthIsRefusedAndItCanBeStopped) {
    const Piece piece = uneven();
    const LessonFacts facts(piece);
    PlayAlongOptions options;
    EXPECT_FALSE(playAlong(facts, options, {}).ok());
    options.to = Rational(8);
    std::atomic<bool> stop = true;
    JobControl job;
    job.cancel = &stop;
    const auto stopped = playAlong(facts, options, job);
    ASSERT_FALSE(stopped.ok());
    EXPECT_EQ(stopped.error().kind, ErrorKind::Cancelled);
}

} // namespace
} // namespace wirenote
