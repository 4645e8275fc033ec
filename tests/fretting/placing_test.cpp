#include "fretting/let_go.h"
#include "fretting/placing.h"
#include "piece/edits.h"
#include "support/pieces.h"
#include "support/solving.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

void endOnStrings(Piece& piece) {
    const auto ends = endsOnStrings(piece.instrument, piece.rows());
    for (std::size_t i = 0; i < ends.size(); ++i)
        piece.notes[i].time.value.end_s = ends[i];
}

TEST(Placing, EveryNoteGetsPlaceFingerProbabilityAndReason) {
    Piece piece = test::scalePiece(40);
    test::placeAll(piece);
    ASSERT_TRUE(checkPiece(piece).ok());
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const NotePlan& plan = piece.asPlayed().plans[i];
        ASSERT_TRUE(plan.placed());
        EXPECT_EQ(piece.instrument.midiAt(plan.position.value), piece.notes[i].midi());
        EXPECT_EQ(plan.position.basis, Basis::Reasoned);
        EXPECT_GT(plan.position.probability, 0.0);
        EXPECT_FALSE(plan.position.reasons.empty());
        EXPECT_NE(plan.finger.value, Finger::Unknown);
        EXPECT_EQ(plan.finger.value == Finger::Open, plan.position.value.fret == 0);
    }
}

TEST(Placing, WhatAPersonDecidedSurvivesReAnalysis) {
    Piece piece = test::scalePiece(24);
    test::placeAll(piece);
    PieceEditor editor(piece, "now");
    ASSERT_TRUE(editor.moveToString(10, 4).ok());
    ASSERT_TRUE(editor
                    .setFinger(12,
                               piece.asPlayed().plans[11].position.value.fret == 0 ? Finger::Open
                                                                                   : Finger::Little)
                    .ok());
    const Decision<Position> position = piece.asPlayed().plans[9].position;
    const Decision<Finger> finger = piece.asPlayed().plans[11].finger;
    test::placeAll(piece);
    EXPECT_EQ(piece.asPlayed().plans[9].position, position);
    EXPECT_EQ(piece.asPlayed().plans[11].finger, finger);
}

TEST(Placing, ANeighbourhoodIsSolvedWithoutTouchingTheRest) {
    Piece piece = test::scalePiece(200);
    test::placeAll(piece);
    const Piece before = piece;
    PieceEditor editor(piece, "now");
    ASSERT_TRUE(editor.moveToString(100, 5).ok());
    test::placeAround(piece, piece.notes[99].onset_s());
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        if (i + 26 < 99 || i > 99 + 26) {
            EXPECT_EQ(piece.asPlayed().plans[i], before.asPlayed().plans[i]) << i;
        }
    EXPECT_EQ(piece.asPlayed().plans[99].position.value.string, 5);
    EXPECT_TRUE(piece.asPlayed().plans[99].finger.value != Finger::Unknown);
}

TEST(Placing, SolvingAroundNothingIsHarmless) {
    Piece empty;
    test::placeAround(empty, 1.0);
    test::placeAll(empty);
    Piece one = test::scalePiece(1);
    test::placeAround(one, 99.0);
    EXPECT_TRUE(one.asPlayed().plans[0].placed());
}

// Open chords as every player takes them, fret by fret from the thickest string: common practice.
TEST(Placing, OpenChordsTakeOneStringANoteAndTheirUsualFrets) {
    struct Chord {
        const char* name;
        std::vector<int> midis;
        std::vector<Position> places;
    };
    for (const Chord& chord :
         {Chord{"E minor",
                {40, 47, 52, 55, 59, 64},
                {{6, 0}, {5, 2}, {4, 2}, {3, 0}, {2, 0}, {1, 0}}},
          Chord{"C", {48, 52, 55, 60, 64}, {{5, 3}, {4, 2}, {3, 0}, {2, 1}, {1, 0}}},
          Chord{"D", {50, 57, 62, 66}, {{4, 0}, {3, 2}, {2, 3}, {1, 2}}}}) {
        std::vector<test::Row> rows;
        for (const int midi : chord.midis)
            rows.push_back({1.0, 2.0, midi});
        Piece piece = test::pieceOf(rows);
        test::placeAll(piece);
        for (std::size_t i = 0; i < rows.size(); ++i)
            EXPECT_EQ(piece.asPlayed().plans[i].position.value, chord.places[i])
                << chord.name << ", note " << i;
    }
}

// The hand must move between the low and the high note; a squeak tells before which note in
// between.
TEST(Placing, ASqueakTellsWhenTheHandMoved) {
    const auto placed = [](bool squeak) {
        Piece piece = test::pieceOf({{0.0, 0.4, 52, {4, 2}},
                                     {0.5, 0.9, 57},
                                     {1.0, 1.4, 60},
                                     {1.5, 1.9, 62},
                                     {2.0, 2.4, 59}});
        piece.asPlayed().plans[0].position.set({4, 2});
        piece.asPlayed().plans[4].position.set({4, 9});
        piece.notes[1].ownSound().squeak_before = squeak;
        test::placeAll(piece);
        return piece;
    };
    const Piece silent = placed(false);
    const Piece heard = placed(true);
    const auto high = [](const Piece& piece) {
        const auto& position = piece.asPlayed().plans[1].position;
        double p = position.value == Position{4, 7} ? position.probability : 0.0;
        for (const auto& other : position.runners_up)
            p += other.value == Position{4, 7} ? other.probability : 0.0;
        return p;
    };
    EXPECT_GT(high(heard), high(silent));
    EXPECT_EQ(heard.asPlayed().plans[1].position.value, (Position{4, 7}));
    const auto& reasons = heard.asPlayed().plans[1].position.reasons;
    EXPECT_TRUE(std::ranges::any_of(
        reasons, [](const Reason& r) { return r.kind == ReasonKind::SlideHeard; }));
}

// A pick that goes from string to string would sound what it passes over: the chord lies on
// neighbouring strings. Fingers that pluck together may leave strings out. Common practice.
TEST(Placing, AStrumDoesNotPassOverAString) {
    const auto placed = [](double step_s) {
        Piece piece =
            test::pieceOf({{1.0, 1.4, 43}, {1.0 + step_s, 1.4, 50}, {1.0 + 2 * step_s, 1.4, 55}});
        piece.asPlayed().plans[0].position.set({6, 3});
        piece.asPlayed().plans[1].position.set({5, 5});
        test::placeAll(piece);
        return piece.asPlayed().plans[2].position;
    };
    const auto share = [](const Decision<Position>& d, Position place) {
        double p = d.value == place ? d.probability : 0.0;
        for (const auto& other : d.runners_up)
            p += other.value == place ? other.probability : 0.0;
        return p;
    };
    EXPECT_GT(share(placed(0.008), {4, 5}), 1.3 * share(placed(0.001), {4, 5}));
}

TEST(Placing, ANewNoteOnAStringEndsTheOldOne) {
    Piece piece =
        test::pieceOf({{0.0, 2.0, 52, {4, 2}}, {0.5, 1.5, 57, {3, 2}}, {1.0, 2.0, 50, {4, 0}}});
    endOnStrings(piece);
    EXPECT_DOUBLE_EQ(piece.notes[0].offset_s(), 1.0);
    EXPECT_DOUBLE_EQ(piece.notes[1].offset_s(), 1.5);
    piece.notes[0].time.set({0.0, 2.0});
    endOnStrings(piece);
    EXPECT_DOUBLE_EQ(piece.notes[0].offset_s(), 2.0) << "what a person set stays";
}

// A person may set what no hand can do; what is about it is then in doubt, and has a probability.
TEST(Placing, WhatContradictsItselfLeavesDoubtsAndNoNumbersThatAreNone) {
    for (const double apart_s : {0.0, 0.01, 0.1}) {
        Piece piece = test::pieceOf({{0.0, 1.0, 60, {2, 1}},
                                     {apart_s, 1.0, 64, {2, 5}},
                                     {apart_s + 0.01, 1.0, 67, {2, 8}},
                                     {1.5, 1.9, 62}});
        for (std::size_t i = 0; i < 3; ++i) {
            NotePlan& plan = piece.asPlayed().plans[i];
            plan.position.set(plan.position.value);
            plan.finger.set(Finger::Index);
        }
        test::placeAll(piece);
        for (const NotePlan& plan : piece.asPlayed().plans) {
            EXPECT_TRUE(plan.position.probability >= 0.0 && plan.position.probability <= 1.0);
            EXPECT_TRUE(plan.finger.probability >= 0.0 && plan.finger.probability <= 1.0);
            for (const auto& other : plan.position.runners_up)
                EXPECT_TRUE(other.probability >= 0.0 && other.probability <= 1.0);
        }
        EXPECT_TRUE(checkPiece(piece).ok());
    }
}

} // namespace
} // namespace wirenote
