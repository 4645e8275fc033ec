#include "piece/doubts.h"
#include "piece/edits.h"
#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

Piece doubtful() {
    Piece piece = test::pieceOf(
        {{0.0, 0.4, 64, {1, 0}}, {0.5, 0.9, 59, {2, 0}}, {1.0, 1.4, 67, {1, 3}}, {1.5, 1.9, 62}});
    piece.asPlayed().plans[0].position.probability = 0.55;
    piece.asPlayed().plans[1].position.probability = 0.35;
    piece.asPlayed().plans[2].position.probability = 0.98;
    return piece;
}

TEST(Doubts, AreOrderedByUrgencyAndLeaveOutTheSure) {
    const auto doubts = openDoubts(doubtful());
    ASSERT_EQ(doubts.size(), 3U);
    EXPECT_EQ(doubts[0].note, 4); // no place at all
    EXPECT_EQ(doubts[0].kind, DoubtKind::NoPlace);
    EXPECT_EQ(doubts[1].note, 2);
    EXPECT_EQ(doubts[2].note, 1);
}

TEST(Doubts, AcceptedIsNoLongerInDoubt) {
    Piece piece = doubtful();
    PieceEditor editor(piece, "now");
    ASSERT_TRUE(editor.accept(2).ok());
    for (const Doubt& doubt : openDoubts(piece))
        EXPECT_NE(doubt.note, 2);
}

// Another finger sounds the same: it comes behind what is in doubt of notes.
TEST(Doubts, AFingerThatIsATossUpIsOneBehindTheNotes) {
    Piece piece = doubtful();
    auto& finger = piece.asPlayed().plans[2].finger;
    finger.value = Finger::Ring;
    finger.probability = 0.5;
    auto doubts = openDoubts(piece);
    ASSERT_EQ(doubts.size(), 4U);
    EXPECT_EQ(doubts.back().note, 3);
    EXPECT_EQ(doubts.back().kind, DoubtKind::Finger);
    finger.probability = 0.9;
    EXPECT_EQ(openDoubts(piece).size(), 3U);
    finger.set(Finger::Little);
    EXPECT_EQ(openDoubts(piece).size(), 3U);
}

TEST(Doubts, ABlurredPitchIsOne) {
    Piece piece = doubtful();
    piece.notes[2].pitch.probability = 0.4;
    const auto doubts = openDoubts(piece);
    const auto at =
        std::find_if(doubts.begin(), doubts.end(), [](const Doubt& d) { return d.note == 3; });
    ASSERT_NE(at, doubts.end());
    EXPECT_EQ(at->kind, DoubtKind::Pitch);
}

// A strum over three strings at 0.5 s, written down as a down-stroke.
Piece strummed(int heard, bool rule, double probability) {
    Piece piece =
        test::pieceOf({{0.5, 0.9, 52, {4, 2}}, {0.51, 0.9, 55, {3, 0}}, {0.52, 0.9, 59, {2, 0}}});
    for (NotePlan& plan : piece.asPlayed().plans) {
        plan.position.probability = 0.99;
        plan.stroke.value = Stroke::Down;
        plan.stroke.probability = probability;
        plan.stroke.reasons = {{ReasonKind::StringsInTurn, Basis::Heard, heard, 0, 0.7}};
        if (rule)
            plan.stroke.reasons.push_back(
                {ReasonKind::AlternatesOnBeat, Basis::Reasoned, 0, 0, 0.0});
    }
    return piece;
}

TEST(Doubts, OfStrokesAreWhereEarAndRuleContradictEachOther) {
    const auto doubts = openDoubts(strummed(-1, true, 0.6)); // heard upwards, written by the rule
    ASSERT_EQ(doubts.size(), 1U) << "once a stroke";
    EXPECT_EQ(doubts[0].kind, DoubtKind::Stroke);
    EXPECT_EQ(doubts[0].note, 1);
    EXPECT_EQ(openDoubts(strummed(1, false, 0.6)).size(), 1U); // as heard, against the rule
    EXPECT_TRUE(openDoubts(strummed(1, true, 0.6)).empty()) << "they agree";
    EXPECT_TRUE(openDoubts(strummed(-1, true, 0.9)).empty()) << "it is believed";
    Piece only_rules = strummed(-1, true, 0.6);
    for (NotePlan& plan : only_rules.asPlayed().plans)
        plan.stroke.reasons.erase(plan.stroke.reasons.begin());
    EXPECT_TRUE(openDoubts(only_rules).empty()) << "a guess that nobody heard is not asked about";
    Piece blurred = strummed(-1, true, 0.6);
    blurred.notes[0].pitch.probability = 0.4;
    const auto both = openDoubts(blurred);
    ASSERT_EQ(both.size(), 2U);
    EXPECT_EQ(both[0].kind, DoubtKind::Pitch);
    EXPECT_EQ(both[1].kind, DoubtKind::Stroke);
    EXPECT_EQ(both[1].note, 2) << "the next note of the stroke stands for it";
}

TEST(Doubts, AnEmptyPieceHasNone) {
    EXPECT_TRUE(openDoubts(Piece{}).empty());
}

// A sure note that none of the other playings of its place has: a slip, or meant so?
TEST(Doubts, ANoteThatIsInOnePlayingOnlyIsAskedAbout) {
    Piece piece = test::pieceOf({{0.0, 0.4, 64, {1, 0}},
                                 {0.5, 0.9, 59, {2, 0}},
                                 {1.0, 1.4, 67, {1, 3}},
                                 {1.5, 1.9, 69, {1, 5}}});
    for (std::size_t i = 0; i < 4; ++i) {
        piece.notes[i].existence.probability = 0.99;
        piece.notes[i].pitch.probability = 0.99;
        piece.asPlayed().plans[i].position.probability = 0.99;
    }
    const auto played = [&piece](std::size_t i, int times, int of) {
        piece.notes[i].existence.reasons = {
            {ReasonKind::PlayedInOthers, Basis::Heard, times, of, 0.0}};
    };
    played(0, 1, 2); // one other playing says little
    played(1, 1, 4);
    played(2, 3, 4);
    played(3, 1, 3);
    piece.notes[3].slip = Slip{}; // a person has said so
    const auto onlyHere = [&piece] {
        std::vector<NoteId> notes;
        for (const Doubt& doubt : openDoubts(piece))
            if (doubt.kind == DoubtKind::OnlyHere)
                notes.push_back(doubt.note);
        return notes;
    };
    EXPECT_EQ(onlyHere(), std::vector<NoteId>{piece.notes[1].id});
    ASSERT_TRUE(PieceEditor(piece, "").accept(piece.notes[1].id).ok());
    EXPECT_TRUE(onlyHere().empty());
}

} // namespace
} // namespace wirenote
