// How strings are drawn: common practice throughout.
#include "fretting/bend_way.h"
#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

struct Played {
    Position place;
    Finger finger;
    bool bent;
};

Piece pieceOf(const std::vector<Played>& together) {
    std::vector<test::Row> rows;
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    for (const Played& one : together)
        rows.push_back({1.0, 2.0, guitar.midiAt(one.place), one.place});
    Piece piece = test::pieceOf(rows);
    for (std::size_t i = 0; i < together.size(); ++i) {
        piece.asPlayed().plans[i].finger.value = together[i].finger;
        if (!together[i].bent)
            continue;
        piece.notes[i].techniques.push_back(Technique::Bend);
        piece.notes[i].curve = {{1.0, 0.0}, {1.5, 200.0}, {1.9, 200.0}};
    }
    return piece;
}

BendWay wayOf(const std::vector<Played>& together) {
    const Piece piece = pieceOf(together);
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        if (piece.notes[i].has(Technique::Bend))
            return *bendWay(piece.instrument, piece.rows(), i);
    return {};
}

TEST(BendWay, TheRingFingerIsHelpedByThoseBehindIt) {
    const BendWay way = wayOf({{{2, 8}, Finger::Ring, true}});
    EXPECT_EQ(way.finger, Finger::Ring);
    EXPECT_EQ(way.behind, (std::vector{Finger::Middle, Finger::Index}));
    EXPECT_TRUE(way.to_thicker) << "a thin string is pushed";
    EXPECT_EQ(way.against, 0);
    EXPECT_TRUE(wayOf({{{3, 5}, Finger::Index, true}}).behind.empty());
}

TEST(BendWay, ThickStringsArePulledAndTheOutermostStayOnTheNeck) {
    EXPECT_FALSE(wayOf({{{5, 7}, Finger::Ring, true}}).to_thicker);
    EXPECT_FALSE(wayOf({{{6, 7}, Finger::Ring, true}}).to_thicker);
    EXPECT_TRUE(wayOf({{{1, 12}, Finger::Ring, true}}).to_thicker);
    const BendWay met = wayOf({{{1, 12}, Finger::Ring, true}, {{2, 12}, Finger::Index, false}});
    EXPECT_TRUE(met.to_thicker) << "it cannot go the other way";
    EXPECT_EQ(met.against, 2);
}

TEST(BendWay, AFingerThatHoldsAnotherNoteDoesNotHelp) {
    // An oblique bend: the note above stays while the third string is drawn.
    const BendWay way = wayOf({{{3, 9}, Finger::Middle, true}, {{2, 8}, Finger::Index, false}});
    EXPECT_TRUE(way.behind.empty());
    EXPECT_TRUE(way.to_thicker) << "away from what sounds";
    EXPECT_EQ(way.against, 0);
}

TEST(BendWay, ItGoesTheOtherWayWhereAStringSounds) {
    EXPECT_FALSE(wayOf({{{3, 7}, Finger::Ring, true}, {{4, 0}, Finger::Open, false}}).to_thicker);
    const BendWay between = wayOf({{{3, 7}, Finger::Ring, true},
                                   {{4, 0}, Finger::Open, false},
                                   {{2, 0}, Finger::Open, false}});
    EXPECT_TRUE(between.to_thicker);
    EXPECT_EQ(between.against, 4);
}

TEST(BendWay, NothingIsSaidOfOtherNotes) {
    const Piece plain = pieceOf({{{2, 8}, Finger::Ring, false}, {{1, 0}, Finger::Open, true}});
    for (std::size_t i = 0; i < 3; ++i)
        EXPECT_FALSE(bendWay(plain.instrument, plain.rows(), i)) << i;
}

} // namespace
} // namespace wirenote
