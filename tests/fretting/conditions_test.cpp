// Under what other condition a note is taken otherwise.
#include "fretting/conditions.h"
#include "support/pieces.h"
#include "support/solving.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

struct Given {
    double start_s;
    double end_s;
    Position place;
};

class Conditions : public ::testing::Test {
  protected:
    // Notes at these places, with the fingers that they get.
    static Piece solved(const std::vector<Given>& given) {
        const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
        std::vector<test::Row> rows;
        for (const Given& one : given)
            rows.push_back({one.start_s, one.end_s, guitar.midiAt(one.place), one.place});
        Piece piece = test::pieceOf(rows);
        for (NotePlan& plan : piece.asPlayed().plans)
            plan.position.set(plan.position.value);
        test::placeAll(piece);
        return piece;
    }
    static std::vector<OtherCondition> of(const Piece& piece, std::size_t row) {
        return otherConditions(
            piece.instrument, piece.rows(), piece.string_traits, piece.asPlayed().head, row);
    }
    static Finger under(Condition when, const Piece& piece, std::size_t row) {
        for (const OtherCondition& one : of(piece, row))
            if (one.when == when)
                return one.finger;
        return piece.asPlayed().plans[row].finger.value;
    }
};

TEST_F(Conditions, WhatFollowsMayDecide) {
    // The first finger is wanted a fret below at once: the second takes this one (common practice).
    const Piece piece = solved({{0.0, 0.24, {3, 6}}, {0.25, 0.49, {3, 5}}, {0.5, 0.9, {3, 6}}});
    EXPECT_EQ(piece.asPlayed().plans[0].finger.value, Finger::Middle);
    EXPECT_EQ(under(Condition::NothingAfter, piece, 0), Finger::Index);
    EXPECT_EQ(under(Condition::NothingBefore, piece, 0), Finger::Middle) << "it is the first";
}

TEST_F(Conditions, WhatRingsMayDecide) {
    // The held bass has the third finger: the tune's note on that fret takes the fourth (common
    // practice).
    const Piece piece = solved({{0.0, 2.0, {5, 3}}, {0.5, 0.9, {2, 3}}, {1.0, 1.4, {2, 1}}});
    EXPECT_EQ(piece.asPlayed().plans[0].finger.value, Finger::Ring);
    EXPECT_EQ(piece.asPlayed().plans[1].finger.value, Finger::Little);
    EXPECT_EQ(under(Condition::NothingBefore, piece, 1), Finger::Ring);
}

TEST_F(Conditions, ThereIsNoneWhereAPersonHasDecided) {
    Piece piece = solved({{0.0, 0.24, {3, 6}}, {0.25, 0.49, {3, 5}}});
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.finger.set(plan.finger.value);
    EXPECT_TRUE(of(piece, 0).empty());
    EXPECT_TRUE(of(piece, 7).empty()) << "no such note";
}

} // namespace
} // namespace wirenote
