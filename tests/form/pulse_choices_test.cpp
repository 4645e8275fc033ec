// What else the pulse may be. Rhythms as players count them (common practice).
#include "form/pulse_choices.h"

#include "piece/timeline_edits.h"

#include "support/pieces.h"

#include <algorithm>
#include <array>
#include <cmath>

#include <gtest/gtest.h>

namespace wirenote {
namespace {

// Notes at these parts of a beat, bar after bar, a little uneven.
Piece rhythm(const std::vector<double>& beats_of_bar, double bar_beats, double bpm, int bars = 8) {
    std::vector<test::Row> rows;
    const double beat_s = 60.0 / bpm;
    for (int bar = 0; bar < bars; ++bar)
        for (std::size_t k = 0; k < beats_of_bar.size(); ++k) {
            const double at_s = 0.5 + beat_s * (bar * bar_beats + beats_of_bar[k]) +
                                0.004 * ((bar * 3 + static_cast<int>(k) * 7) % 5 - 2);
            rows.push_back({at_s, at_s + 0.4 * beat_s, k == 0 ? 40 : 57});
        }
    return test::pieceOf(rows, bpm);
}

Piece heardAt(Piece piece, double bpm, double from_s = 0.5) {
    piece.timeline.tempo_bpm = bpm;
    piece.timeline.beats_s.clear();
    for (double t = from_s; t < piece.notes.back().offset_s() + 1.0; t += 60.0 / bpm)
        piece.timeline.beats_s.push_back(t);
    return piece;
}

const PulseChoice* at(const std::vector<PulseChoice>& choices, double bpm) {
    for (const PulseChoice& choice : choices)
        if (std::abs(choice.timeline.tempo_bpm / bpm - 1.0) < 0.03)
            return &choice;
    return nullptr;
}

double presentShare(const std::vector<PulseChoice>& choices) {
    for (const PulseChoice& choice : choices)
        if (choice.now)
            return choice.probability;
    return 0.0;
}

TEST(TempoChoices, EighthsAtTheirOwnTempoAreTheLikeliest) {
    const Piece piece = heardAt(rhythm({0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5}, 4, 104), 104);
    const auto choices = tempoChoices(piece.notes, piece.timeline);
    ASSERT_FALSE(choices.empty());
    EXPECT_TRUE(choices.front().now);
    EXPECT_GT(choices.front().probability, 0.5);
    EXPECT_EQ(choices.front().timeline, piece.timeline) << "as it stands, to the last beat";
    double sum = 0.0;
    for (const auto& choice : choices)
        sum += choice.probability;
    EXPECT_NEAR(sum, 1.0, 1e-9);
}

// Eighths of 148 that were taken for triplets of 98.7.
TEST(TempoChoices, TwoThirdsOfTheTempoAreFoundOut) {
    const Piece piece = heardAt(rhythm({0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5}, 4, 148), 148 * 2.0 / 3.0);
    const auto choices = tempoChoices(piece.notes, piece.timeline);
    ASSERT_FALSE(choices.empty());
    EXPECT_LT(presentShare(choices), 0.75) << "it is asked about";
    const PulseChoice* right = at(choices, 148);
    ASSERT_NE(right, nullptr);
    EXPECT_GT(right->probability, presentShare(choices));
    // Its beats lie under the notes.
    int on_beat = 0;
    for (const double beat_s : right->timeline.beats_s)
        for (const Note& note : piece.notes)
            on_beat += std::abs(note.onset_s() - beat_s) < 0.03 ? 1 : 0;
    EXPECT_GT(on_beat, 28);
}

TEST(TempoChoices, HalfTheTempoIsAChoice) {
    const Piece piece = heardAt(rhythm({0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5}, 4, 160), 80);
    const auto choices = tempoChoices(piece.notes, piece.timeline);
    ASSERT_GE(choices.size(), 2U);
    EXPECT_LT(presentShare(choices), 0.95) << "nothing but the tempo speaks for either";
    EXPECT_TRUE(at({choices[0], choices[1]}, 160) != nullptr);
}

// Two, two and three eighths; the quarters that were heard run over every other bar line.
TEST(MetreChoices, SevenEighthsAreOfferedInEighths) {
    const Piece piece = heardAt(rhythm({0, 1, 2, 2.5, 3}, 3.5, 120, 14), 120);
    const auto choices = metreChoices(piece.notes, piece.timeline);
    ASSERT_GE(choices.size(), 2U);
    EXPECT_EQ(choices.front().timeline.metre, (Metre{7, 8}));
    EXPECT_NEAR(middleTempo(choices.front().timeline), 240.0, 1.0);
}

TEST(MetreChoices, FiveBeatsAreOffered) {
    const Piece piece = heardAt(rhythm({0, 1, 2, 3, 3.5, 4}, 5, 120, 10), 120);
    const auto choices = metreChoices(piece.notes, piece.timeline);
    ASSERT_GE(choices.size(), 2U);
    EXPECT_EQ(choices.front().timeline.metre, (Metre{5, 4}));
    EXPECT_NEAR(middleTempo(choices.front().timeline), 120.0, 1.0);
}

TEST(MetreChoices, FourBeatsAreNotAskedAbout) {
    const Piece piece = heardAt(rhythm({0, 1, 2, 2.5, 3, 3.5}, 4, 120, 10), 120);
    const auto choices = metreChoices(piece.notes, piece.timeline);
    ASSERT_FALSE(choices.empty());
    EXPECT_TRUE(choices.front().now);
    EXPECT_GT(choices.front().probability, 0.6);
}

TEST(TempoChoices, NothingIsAskedOfTooLittle) {
    const Piece piece = heardAt(rhythm({0, 1}, 4, 100, 2), 100);
    EXPECT_TRUE(tempoChoices(piece.notes, piece.timeline).empty());
    EXPECT_TRUE(tempoChoices({}, {}).empty());
    EXPECT_TRUE(metreChoices({}, {}).empty());
    EXPECT_TRUE(oneChoices({}, {}).empty());
}

TEST(MetreChoices, AWaltzCountedInFourIsAThree) {
    Piece piece = heardAt(rhythm({0, 1, 2}, 3, 120, 12), 120);
    piece.timeline.metre = {4, 4};
    const auto choices = metreChoices(piece.notes, piece.timeline);
    ASSERT_GE(choices.size(), 2U);
    EXPECT_EQ(choices.front().timeline.metre, (Metre{3, 4}));
    EXPECT_FALSE(choices.front().now);
    piece.timeline.metre = {2, 4}; // somebody said so
    EXPECT_TRUE(metreChoices(piece.notes, piece.timeline).empty());
}

TEST(OneChoices, ABassOnAnotherBeatSpeaksForIt) {
    // The bass comes on the first beat of the bar; the bars were begun a beat late.
    Piece piece = heardAt(rhythm({0, 1, 2, 3}, 4, 100), 100);
    piece.timeline.first_downbeat = 1;
    const auto choices = oneChoices(piece.notes, piece.timeline);
    ASSERT_GE(choices.size(), 4U);
    EXPECT_FALSE(choices.front().now);
    EXPECT_EQ(choices.front().timeline.downbeats_s().front(), piece.timeline.beats_s[0]);
}

TEST(OneChoices, BeatsBetweenTheNotesAreHalfABeatOff) {
    Piece piece = rhythm({0, 1, 2, 3}, 4, 100);
    piece = heardAt(piece, 100, 0.5 - 0.3);
    const auto choices = oneChoices(piece.notes, piece.timeline);
    ASSERT_FALSE(choices.empty());
    const double first_s = choices.front().timeline.beats_s.front();
    EXPECT_NEAR(std::remainder(first_s - 0.5, 0.6), 0.0, 0.05) << "the beats are under the notes";
}

// Bars of these lengths in beats, each with a low long note on "one", its fifth after it and
// another chord every bar.
Piece inBars(const std::vector<int>& beats_of_bars, double bpm) {
    std::vector<test::Row> rows;
    const double beat_s = 60.0 / bpm;
    double at = 0.0;
    for (std::size_t bar = 0; bar < beats_of_bars.size(); ++bar) {
        const int root = std::array{40, 45, 43, 38}[bar % 4];
        for (int beat = 0; beat < beats_of_bars[bar]; ++beat, at += 1.0) {
            const double from_s = 0.5 + beat_s * at;
            rows.push_back(beat == 0 ? test::Row{from_s, from_s + 1.8 * beat_s, root}
                                     : test::Row{from_s, from_s + 0.6 * beat_s, root + 19});
        }
    }
    return heardAt(test::pieceOf(rows, bpm), bpm);
}

const PulseChoice* changing(const std::vector<PulseChoice>& choices) {
    const auto found = std::ranges::find_if(
        choices, [](const PulseChoice& choice) { return !choice.timeline.changes.empty(); });
    return found == choices.end() ? nullptr : &*found;
}

TEST(MetreChoices, FourInABarAndThenThreeAreOffered) {
    Piece piece = inBars({4, 4, 4, 4, 4, 4, 3, 3, 3, 3, 3, 3, 3, 3}, 96);
    piece.timeline.metre = {4, 4};
    const auto choices = metreChoices(piece.notes, piece.timeline);
    const PulseChoice* found = changing(choices);
    ASSERT_NE(found, nullptr);
    EXPECT_EQ(found->timeline.metre, (Metre{4, 4}));
    EXPECT_EQ(found->timeline.changes, (std::vector<MetreChange>{{7, {3, 4}}}));
    EXPECT_EQ(found->timeline.beats_s, piece.timeline.beats_s);
    EXPECT_GT(found->probability, 0.4);
}

TEST(MetreChoices, APassageInThreeBetweenFoursComesBack) {
    Piece piece = inBars({4, 4, 4, 4, 4, 4, 3, 3, 3, 3, 3, 3, 4, 4, 4, 4, 4, 4}, 120);
    piece.timeline.metre = {4, 4};
    const auto choices = metreChoices(piece.notes, piece.timeline);
    const PulseChoice* found = changing(choices);
    ASSERT_NE(found, nullptr);
    EXPECT_EQ(found->timeline.changes, (std::vector<MetreChange>{{7, {3, 4}}, {13, {4, 4}}}));
}

TEST(MetreChoices, WhereOneMetreDoesNoChangeIsOffered) {
    for (const int beats : {3, 4}) {
        Piece piece = inBars(std::vector<int>(14, beats), 96);
        piece.timeline.metre = {beats, 4};
        EXPECT_EQ(changing(metreChoices(piece.notes, piece.timeline)), nullptr) << beats;
    }
}

} // namespace
} // namespace wirenote
