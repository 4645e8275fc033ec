// What other strokes tell of the grip behind one.
#include "form/grips.h"
#include "form/harmony.h"

#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

const Instrument kGuitar = standardInstrument(InstrumentKind::Guitar);

Grip grip(const char* text) {
    return *parseGrip(text, kGuitar);
}

// One stroke a second, each from the thickest string on.
Piece strummed(const std::vector<const char*>& grips) {
    std::vector<test::Row> rows;
    double at_s = 1.0;
    for (const char* text : grips) {
        const Grip held = grip(text);
        double late_s = 0.0;
        for (int s = 6; s >= 1; --s)
            if (const int fret = held.fretOn(s); fret >= 0) {
                const Position place{s, fret};
                rows.push_back({at_s + late_s, at_s + 0.8, kGuitar.midiAt(place), place});
                late_s += 0.008;
            }
        at_s += 1.0;
    }
    return test::pieceOf(rows);
}

TEST(Strums, AreStrokesOfSeveralStrings) {
    const Piece piece = strummed({"x32010", "xxxx1x", "320003"});
    const auto strums = strumsOf(piece);
    ASSERT_EQ(strums.size(), 2U) << "one note is no chord";
    EXPECT_EQ(strums[0].grip, grip("x32010"));
    EXPECT_EQ(strums[1].notes.size(), 6U);
    EXPECT_NEAR(strums[1].onset_s, 3.0, 1e-9);
}

TEST(Strums, OfTwoOnOneStringTheLikelierTells) {
    Piece piece = strummed({"x32010"});
    Note doubtful = piece.notes.back();
    doubtful.id = piece.next_id++;
    doubtful.pitch.value = 67;
    doubtful.existence.probability = 0.4;
    piece.notes.push_back(doubtful);
    piece.asPlayed().plans.push_back(piece.asPlayed().plans.back());
    piece.asPlayed().plans.back().note = doubtful.id;
    piece.asPlayed().plans.back().position.value = {1, 3};
    const auto strums = strumsOf(piece);
    ASSERT_EQ(strums.size(), 1U);
    EXPECT_EQ(strums[0].grip, grip("x32010"));
    EXPECT_EQ(strums[0].notes.size(), 6U) << "it belongs to the stroke all the same";
}

TEST(WholeGrips, AreToldByStrokesThatHaveMore) {
    const auto strums =
        strumsOf(strummed({"x32010", "x32010", "x320xx", "x320xx", "320003", "x32010", "x320x2"}));
    const auto whole = wholeGripsOf(strums, grip("x320xx"));
    ASSERT_FALSE(whole.empty());
    EXPECT_EQ(whole.front().grip, grip("x32010"));
    EXPECT_EQ(whole.front().heard, 3);
    EXPECT_EQ(whole.front().missing, 2);
    EXPECT_EQ(whole.front().differing, 0);
    EXPECT_EQ(sameStrums(strums, grip("x320xx")).size(), 2U);
    // One wrong fret among enough right ones is put right as well.
    const auto wrong = wholeGripsOf(strums, grip("x320x2"));
    ASSERT_FALSE(wrong.empty());
    EXPECT_EQ(wrong.front().grip, grip("x32010"));
    EXPECT_EQ(wrong.front().differing, 1);
}

TEST(WholeGrips, AreNotOtherGripsNorRarerOnes) {
    const auto strums = strumsOf(strummed({"x32010", "320003", "x02210", "xx0232", "x32010"}));
    EXPECT_TRUE(wholeGripsOf(strums, grip("xx0232")).empty());
    EXPECT_TRUE(wholeGripsOf(strums, grip("320003")).empty());
    EXPECT_TRUE(wholeGripsOf(strums, grip("x32010")).empty());
    const auto more_often = strumsOf(strummed({"x320xx", "x320xx", "x32010"}));
    EXPECT_TRUE(wholeGripsOf(more_often, grip("x320xx")).empty())
        << "what was heard more often as it is, is meant so";
}

TEST(NamedChords, StandInThePlaceOfWhatIsFound) {
    Piece piece = strummed({"x32010", "320003", "x02210"});
    piece.chord_names = {{2.0, "the big one"}};
    const auto spans = chordsOf(piece);
    ASSERT_EQ(spans.size(), 3U);
    EXPECT_EQ(chordText(spans[0]), "C");
    EXPECT_EQ(chordText(spans[1]), "the big one");
    EXPECT_EQ(chordText(spans[2]), "Am");
    piece.chord_names = {{2.4, "later"}, {9.0, "alone"}};
    const auto later = chordsOf(piece);
    ASSERT_EQ(later.size(), 5U);
    EXPECT_EQ(chordText(later[1]), "G");
    EXPECT_NEAR(later[1].span.end_s, 2.4, 1e-9);
    EXPECT_EQ(chordText(later[2]), "later");
    EXPECT_EQ(chordText(later[4]), "alone");
}

} // namespace
} // namespace wirenote
