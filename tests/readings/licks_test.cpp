// Licks, found, turned and moved. Degrees and turns are common practice of harmony books.
#include "readings/licks.h"

#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

// The same figure twice: on A, and a fourth higher two bars later, on other strings.
Piece twice() {
    return test::pieceOf({{0.0, 0.4, 57, {3, 2}},
                          {0.5, 0.9, 61, {2, 2}},
                          {1.0, 1.4, 64, {1, 0}},
                          {1.5, 1.9, 67, {1, 3}},
                          {4.0, 4.4, 62, {2, 3}},
                          {4.5, 4.9, 66, {1, 2}},
                          {5.0, 5.4, 69, {1, 5}},
                          {5.5, 5.9, 72, {1, 8}},
                          {6.0, 6.4, 57, {3, 2}},
                          {6.25, 6.4, 61, {2, 2}},
                          {7.0, 7.4, 64, {1, 0}},
                          {7.5, 7.9, 67, {1, 3}}});
}

Lick figure() {
    const auto lick = lickOf(twice(), {0.0, 1.6}, "figure", "A7");
    EXPECT_TRUE(lick.ok());
    return *lick;
}

TEST(Licks, ASpanIsKeptWithAllThatItNeeds) {
    const Lick lick = figure();
    ASSERT_EQ(lick.notes.size(), 4U);
    EXPECT_EQ(lick.notes[1].start, Rational(1));
    EXPECT_EQ(lick.notes[1].place, (Position{2, 2}));
    EXPECT_EQ(lick.bar, 1);
    EXPECT_FALSE(lickOf(twice(), {2.5, 3.5}, "", "").ok()) << "nothing begins there";
}

TEST(Licks, AreFoundInAnyKeyAndNotInAnotherRhythm) {
    const auto found = findLick(twice(), figure());
    ASSERT_EQ(found.size(), 2U) << "the third time its rhythm is another";
    EXPECT_EQ(found[0].semitones, 0);
    EXPECT_TRUE(found[0].same_places);
    EXPECT_EQ(found[1].semitones, 5);
    EXPECT_FALSE(found[1].same_places);
}

TEST(Licks, AreHeldAgainstAChord) {
    const auto over = [](const char* chord) {
        std::string degrees;
        for (const NoteOverChord& one : overChord(figure(), *parseChord(chord)))
            degrees += (degrees.empty() ? "" : " ") + degreeText(one.semitones);
        return degrees;
    };
    EXPECT_EQ(over("A7"), "1 3 5 ♭7");
    EXPECT_EQ(over("D"), "5 7 9 11");
    const auto roles = overChord(figure(), *parseChord("Am"));
    EXPECT_EQ(roles[1].role, ChordRole::Outside) << "C sharp against C";
    EXPECT_EQ(roles[3].role, ChordRole::Tension) << "a seventh that the triad lacks";
    EXPECT_EQ(overChord(figure(), *parseChord("A7"))[3].role, ChordRole::Seventh);
}

TEST(Licks, TurnByTheFewestNotes) {
    const auto minor = turned(figure(), Turn::Minor);
    ASSERT_TRUE(minor.ok());
    EXPECT_EQ(minor->changed, std::vector<std::size_t>{1}) << "the third alone";
    EXPECT_EQ(minor->lick.notes[1].midi, 60);
    EXPECT_EQ(minor->lick.notes[1].place, (Position{2, 1}));
    EXPECT_EQ(minor->lick.chord, "Am7");
    const auto major = turned(figure(), Turn::Major);
    EXPECT_EQ(major->changed, std::vector<std::size_t>{3});
    EXPECT_EQ(major->lick.notes[3].midi, 68);
    EXPECT_TRUE(turned(figure(), Turn::Dominant)->changed.empty());
    Lick unknown = figure();
    unknown.chord = "";
    EXPECT_FALSE(turned(unknown, Turn::Minor).ok());
    unknown.chord = "H9";
    EXPECT_FALSE(turned(unknown, Turn::Minor).ok());
}

TEST(Licks, MoveToOtherStringsWhereAHandHasThem) {
    const auto thicker = onOtherStrings(figure(), 1);
    ASSERT_TRUE(thicker);
    EXPECT_EQ(thicker->notes[0].place, (Position{4, 7}));
    EXPECT_EQ(thicker->notes[2].place, (Position{2, 5}));
    EXPECT_FALSE(onOtherStrings(figure(), -1)) << "there is no string above the first";
    EXPECT_FALSE(onOtherStrings(figure(), 5));
}

TEST(Licks, GoToAnotherKeyWithTheirChord) {
    const Lick up = transposed(figure(), 2);
    EXPECT_EQ(up.chord, "B7");
    EXPECT_EQ(up.notes[2].place, (Position{1, 2}));
    const Lick down = transposed(figure(), -1);
    EXPECT_EQ(down.notes[2].place.string, 0) << "below the open string its place is open";
}

TEST(Chords, NamesAreRead) {
    EXPECT_EQ(parseChord("Am7")->classes, (std::vector<int>{9, 0, 4, 7}));
    EXPECT_EQ(parseChord("F#")->classes, (std::vector<int>{6, 10, 1}));
    EXPECT_EQ(parseChord("B♭maj7/D")->root, 10);
    EXPECT_EQ(parseChord("Bm7b5")->classes, (std::vector<int>{11, 2, 5, 9}));
    EXPECT_EQ(parseChord("C/B")->classes.back(), 11) << "a bass that the chord does not have";
    for (const char* wrong : {"", "H", "Cfoo", "C/", "C/X", "c"})
        EXPECT_FALSE(parseChord(wrong)) << wrong;
    // Every name that is given to what sounds is read as what sounds.
    for (int root = 0; root < 12; ++root)
        for (const std::vector<int>& above :
             {std::vector{0, 4, 7}, {0, 3, 7}, {0, 4, 7, 10}, {0, 3, 6, 9}, {0, 5, 7}}) {
            std::vector<int> midis;
            for (const int step : above)
                midis.push_back(48 + root + step);
            const ChordName named = nameChord(midis);
            const auto read = parseChord(chordText(named));
            ASSERT_TRUE(read) << chordText(named);
            EXPECT_EQ(read->root, named.root);
        }
}

} // namespace
} // namespace wirenote
