// At which level the beat is felt: rhythms as players count them (common practice), with their true
// beats and with beats at other levels.
#include "form/beat_levels.h"

#include "support/pieces.h"

#include <algorithm>
#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr double kFirst_s = 0.5;

struct Rhythm {
    const char* name;
    double bpm;
    double bar_beats;
    std::vector<std::pair<double, std::vector<int>>> bar; // place in beats, pitches
    BeatFeel feel = BeatFeel::Halves;
};
void PrintTo(const Rhythm& rhythm, std::ostream* out) {
    *out << rhythm.name;
}

// Eight bars, a little uneven, every second bar two frets higher.
Piece played(const Rhythm& rhythm) {
    std::vector<test::Row> rows;
    const double beat_s = 60.0 / rhythm.bpm;
    int k = 0;
    for (int bar = 0; bar < 8; ++bar)
        for (const auto& [at, pitches] : rhythm.bar) {
            const double at_s =
                kFirst_s + beat_s * (bar * rhythm.bar_beats + at) + 0.004 * (k++ * 7 % 5 - 2);
            for (const int midi : pitches)
                rows.push_back({at_s, at_s + 0.3 * beat_s, midi + 2 * (bar % 2)});
        }
    return test::pieceOf(rows, rhythm.bpm);
}

std::vector<double> beatsOf(const Rhythm& rhythm, double per_beat, double phase = 0.0) {
    std::vector<double> beats;
    for (int k = 0; k < static_cast<int>(8 * rhythm.bar_beats * per_beat); ++k)
        beats.push_back(kFirst_s + (k + phase) * 60.0 / rhythm.bpm / per_beat);
    return beats;
}

BeatLevel likeliest(const Piece& piece, const std::vector<double>& beats_s) {
    const auto levels = beatLevels(piece.notes, beats_s);
    EXPECT_FALSE(levels.empty());
    return *std::ranges::max_element(levels, {}, &BeatLevel::score);
}

const std::vector<int> kChord = {50, 57, 62, 66};
const std::vector<Rhythm> kRhythms = {
    {"thumb_and_tune",
     96,
     4,
     {{0, {40, 64}}, {1, {47}}, {1.5, {62}}, {2, {40, 60}}, {3, {47}}, {3.5, {64}}}},
    {"waltz", 120, 3, {{0, {40}}, {1, {59, 64}}, {1.5, {62}}, {2, {59, 64}}}},
    {"down_and_up",
     100,
     4,
     {{0, kChord}, {1, kChord}, {1.5, {62, 66}}, {2.5, {62, 66}}, {3, kChord}, {3.5, {62, 66}}}},
    {"walking_bass", 120, 4, {{0, {40}}, {1, {44}}, {2, {47}}, {2.5, {46}}, {3, {45}}}},
    {"sixteenths_picked",
     70,
     4,
     {{0, {40}},
      {0.25, {55}},
      {0.5, {59}},
      {0.75, {55}},
      {1, {64}},
      {1.25, {55}},
      {1.5, {59}},
      {1.75, {55}},
      {2, {47}},
      {2.25, {55}},
      {2.5, {59}},
      {2.75, {55}},
      {3, {64}},
      {3.25, {55}},
      {3.5, {59}},
      {3.75, {55}}}}};

class BeatLevels : public ::testing::TestWithParam<Rhythm> {};
INSTANTIATE_TEST_SUITE_P(Rhythms, BeatLevels, ::testing::ValuesIn(kRhythms), [](const auto& row) {
    return std::string(row.param.name);
});

TEST_P(BeatLevels, TheTrueBeatsAreTheLikeliest) {
    const BeatLevel best = likeliest(played(GetParam()), beatsOf(GetParam(), 1.0));
    EXPECT_DOUBLE_EQ(best.per_beat, 1.0);
    EXPECT_DOUBLE_EQ(best.phase, 0.0);
    EXPECT_EQ(best.feel, GetParam().feel);
}

// Heard at another level or half a beat off: laid where they should be.
TEST_P(BeatLevels, WrongBeatsAreLaidAnew) {
    const Piece piece = played(GetParam());
    for (const auto& [per_beat, phase] :
         {std::pair{2.0 / 3.0, 0.0}, {4.0 / 3.0, 0.0}, {1.0, 0.5}, {1.5, 0.0}}) {
        const auto wrong = beatsOf(GetParam(), per_beat, phase);
        const double bpm = 60.0 / (wrong[1] - wrong[0]);
        if (bpm < 38.0 || bpm > 240.0)
            continue;
        const auto laid = beatsAt(wrong, likeliest(piece, wrong));
        const auto truth = beatsOf(GetParam(), 1.0);
        int hit = 0;
        for (const double beat_s : truth)
            hit += std::ranges::any_of(laid,
                                       [beat_s](double l) { return std::abs(l - beat_s) < 0.03; });
        EXPECT_GT(hit, 0.85 * static_cast<double>(truth.size())) << per_beat << " " << phase;
        EXPECT_NEAR(static_cast<double>(laid.size()), static_cast<double>(truth.size()), 3.0)
            << per_beat << " " << phase;
    }
}

// Eight bars of driven music: what each beat has, on fifths that change with the bar.
Rhythm driven(const char* name, double bpm, const std::vector<double>& cell, bool fifths) {
    Rhythm rhythm{name, bpm, 4, {}, BeatFeel::Halves};
    for (int beat = 0; beat < 4; ++beat)
        for (const double at : cell)
            rhythm.bar.push_back(
                {beat + at, fifths ? std::vector<int>{40, 47} : std::vector<int>{33}});
    return rhythm;
}

// Heard at half their tempo, as slow music with many strokes in a beat; common practice counts them
// fast.
class FastMusic : public ::testing::TestWithParam<Rhythm> {};
INSTANTIATE_TEST_SUITE_P(
    Rhythms,
    FastMusic,
    ::testing::Values(driven("gallop_at_150", 150, {0.0, 0.5, 0.75}, true),
                      driven("gallop_at_170", 170, {0.0, 0.5, 0.75}, true),
                      driven("turned_gallop_at_160", 160, {0.0, 0.25, 0.5}, true),
                      driven("tremolo_at_176", 176, {0.0, 0.25, 0.5, 0.75}, true)),
    [](const auto& row) { return std::string(row.param.name); });

TEST_P(FastMusic, IsNotHalved) {
    const Piece piece = played(GetParam());
    const BeatLevel found = likeliest(piece, beatsOf(GetParam(), 0.5));
    EXPECT_DOUBLE_EQ(found.per_beat, 2.0);
    EXPECT_TRUE(found.onPresent());
    const BeatLevel kept = likeliest(piece, beatsOf(GetParam(), 1.0));
    EXPECT_DOUBLE_EQ(kept.per_beat, 1.0);
}

// Five sixteenths taken for a beat: the grid of four is among what is asked, and likelier.
TEST(BeatLevelsOf, FiveSixteenthsAreNoBeat) {
    const Rhythm& rhythm = kRhythms.back(); // picked sixteenths
    const Piece piece = played(rhythm);
    const auto wrong = beatsOf(rhythm, 0.8);
    const auto levels = beatLevels(piece.notes, wrong);
    const auto best = [&levels](double per_beat) {
        double score = -1e9;
        for (const BeatLevel& level : levels)
            if (std::abs(level.per_beat - per_beat) < 1e-9)
                score = std::max(score, level.score);
        return score;
    };
    EXPECT_GT(best(1.25), best(1.0));
    const auto laid = beatsAt(wrong, likeliest(piece, wrong));
    EXPECT_NEAR(laid[1] - laid[0], 60.0 / rhythm.bpm, 0.01);
}

TEST(BeatLevelsOf, OnPresentMeansOnBeatsThatAreThere) {
    EXPECT_TRUE((BeatLevel{2.0, 0.0, BeatFeel::Halves, {}, 0.0}).onPresent());
    EXPECT_FALSE((BeatLevel{2.0, 0.5, BeatFeel::Halves, {}, 0.0}).onPresent());
    EXPECT_TRUE((BeatLevel{0.5, 0.5, BeatFeel::Halves, {}, 0.0}).onPresent());
    EXPECT_FALSE((BeatLevel{0.5, 0.25, BeatFeel::Halves, {}, 0.0}).onPresent());
    EXPECT_FALSE((BeatLevel{1.0, 0.5, BeatFeel::Halves, {}, 0.0}).onPresent());
    EXPECT_FALSE((BeatLevel{1.5, 0.0, BeatFeel::Halves, {}, 0.0}).onPresent());
}

TEST(BeatLevelsOf, TooLittleAreNone) {
    const Piece piece = played(kRhythms[0]);
    EXPECT_TRUE(beatLevels({}, beatsOf(kRhythms[0], 1.0)).empty());
    EXPECT_TRUE(beatLevels(piece.notes, {0.0, 0.5, 1.0}).empty());
}

} // namespace
} // namespace wirenote
