// Metres by their accents: basses and strums as players count them (common practice).
#include "form/metre_guess.h"

#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

struct Pattern {
    const char* name;
    double step_s;          // from note to note
    std::vector<int> midis; // of one bar; 0: a rest
    double beat_s;          // of the beats that were found
    Metre metre;
    double factor;
};
void PrintTo(const Pattern& p, std::ostream* out) {
    *out << p.name;
}

Piece played(const Pattern& p, double from_s = 0.5) {
    std::vector<test::Row> rows;
    for (int k = 0; k < 96; ++k) {
        const int midi = p.midis[static_cast<std::size_t>(k) % p.midis.size()];
        const double at_s = from_s + p.step_s * k + 0.004 * ((k * 7) % 5 - 2); // as hands are
        if (midi > 0)
            rows.push_back({at_s, at_s + 0.8 * p.step_s, midi});
    }
    return test::pieceOf(rows);
}

std::vector<double> beatsOf(double beat_s, double from_s = 0.5) {
    std::vector<double> beats;
    for (double t = from_s; t < from_s + 24.0; t += beat_s)
        beats.push_back(t);
    return beats;
}

class Patterns : public ::testing::TestWithParam<Pattern> {};
INSTANTIATE_TEST_SUITE_P(
    All,
    Patterns,
    ::testing::Values(
        Pattern{"bass_strum_bass_strum", 0.25, {40, 0, 62, 0, 47, 0, 62, 62}, 0.5, {4, 4}, 1.0},
        Pattern{"waltz", 0.25, {40, 0, 62, 0, 62, 62}, 0.5, {3, 4}, 1.0},
        Pattern{"five_four", 0.25, {40, 0, 62, 0, 62, 0, 47, 0, 62, 62}, 0.5, {5, 4}, 1.0},
        Pattern{"nine_eight", 0.25, {40, 62, 62, 52, 62, 62, 57, 62, 62}, 0.75, {9, 8}, 1.0},
        Pattern{"six_eight_by_the_dotted_beat", 0.25, {40, 62, 62, 52, 62, 62}, 0.75, {6, 8}, 1.0},
        Pattern{"six_eight_by_quarters", 0.25, {40, 62, 62, 52, 62, 62}, 0.5, {6, 8}, 1.5}),
    [](const auto& row) { return std::string(row.param.name); });

TEST_P(Patterns, AreCountedAsPlayersCountThem) {
    const Pattern& p = GetParam();
    const MetreGuess guess = guessMetre(played(p).notes, beatsOf(p.beat_s));
    EXPECT_EQ(guess.metre, p.metre) << guess.metre.text();
    EXPECT_EQ(guess.beat_factor, p.factor);
    EXPECT_GT(guess.certainty, 0.0);
}

TEST_P(Patterns, BeatsBetweenTheBeatsAreToldByTheirStress) {
    const Pattern& p = GetParam();
    const bool compound = p.metre.compound();
    const double beat_s = p.beat_s * p.factor;
    const Piece piece = played(p);
    const auto right = beatsOf(beat_s);
    EXPECT_EQ(beatsOnStress(piece.notes, right, compound), right);
    const double part = compound ? 1.0 / 3.0 : 0.5;
    const auto moved = beatsOnStress(piece.notes, beatsOf(beat_s, 0.5 - part * beat_s), compound);
    ASSERT_GT(moved.size(), 16U);
    for (std::size_t b = 0; b < 16; ++b)
        EXPECT_NEAR(moved[b], right[b], 1e-9);
}

// Every fourth dotted beat has a bass: only there the bar begins.
TEST(MetreGuess, TwelveEighthsHaveOneBassABar) {
    const Pattern p{"", 0.25, {40, 62, 62, 64, 62, 62, 64, 62, 62, 64, 60, 62}, 0.75, {12, 8}, 1.0};
    EXPECT_EQ(guessMetre(played(p).notes, beatsOf(0.75)).metre, p.metre);
}

// The same passage twice with a pause between, the beats found right before it and half a beat off
// after it.
TEST(MetreGuess, AfterAPauseTheBeatsAreLaidAnew) {
    const Pattern p{"waltz", 0.25, {40, 0, 62, 0, 62, 62}, 0.5, {3, 4}, 1.0};
    Piece piece = played(p);
    const double pause_s = 3.0 + piece.notes.back().offset_s();
    const auto once = piece.notes;
    for (Note note : once) {
        note.time.value.start_s += pause_s;
        note.time.value.end_s += pause_s;
        piece.notes.push_back(note);
    }
    std::vector<double> right;
    std::vector<double> found;
    for (double t = 0.5; t < once.back().offset_s(); t += p.beat_s) {
        right.push_back(t);
        found.push_back(t);
    }
    for (double t = 0.5; t < once.back().offset_s(); t += p.beat_s) {
        right.push_back(pause_s + t);
        found.push_back(pause_s + t - 0.5 * p.beat_s);
    }
    const auto moved = beatsOnStress(piece.notes, found, false);
    ASSERT_EQ(moved.size(), right.size());
    for (std::size_t b = 0; b < right.size(); ++b)
        EXPECT_NEAR(moved[b], right[b], 1e-9) << b;
}

TEST(MetreGuess, NothingToGoByIsFourFour) {
    EXPECT_EQ(guessMetre({}, {}).metre, (Metre{4, 4}));
    EXPECT_EQ(guessMetre({}, beatsOf(0.5)).certainty, 0.0);
    const Piece few = test::scalePiece(6);
    EXPECT_EQ(guessMetre(few.notes, beatsOf(0.5)).metre, (Metre{4, 4}));
    EXPECT_EQ(beatsOnStress(few.notes, {0.5}, false), std::vector{0.5});
}

} // namespace
} // namespace wirenote
