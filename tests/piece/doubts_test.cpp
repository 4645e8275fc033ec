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

TEST(Doubts, ABlurredPitchIsOne) {
    Piece piece = doubtful();
    piece.notes[2].pitch.probability = 0.4;
    const auto doubts = openDoubts(piece);
    const auto at =
        std::find_if(doubts.begin(), doubts.end(), [](const Doubt& d) { return d.note == 3; });
    ASSERT_NE(at, doubts.end());
    EXPECT_EQ(at->kind, DoubtKind::Pitch);
}

TEST(Doubts, AnEmptyPieceHasNone) {
    EXPECT_TRUE(openDoubts(Piece{}).empty());
}

} // namespace
} // namespace wirenote
