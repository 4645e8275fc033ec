// What sounds in a stretch.
#include "form/span_summary.h"

#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

// A bass and a melody a tenth above, the melody `over` decibels louder.
Piece duet(double over) {
    std::vector<test::Row> rows;
    const int bass[] = {48, 53, 55, 48};
    const int melody[] = {64, 69, 71, 72};
    for (int i = 0; i < 8; ++i) {
        rows.push_back({0.5 * i, 0.5 * i + 0.48, bass[i % 4]});
        rows.push_back({0.5 * i, 0.5 * i + 0.48, melody[i % 4]});
    }
    Piece piece = test::pieceOf(rows);
    for (Note& note : piece.notes)
        note.loudness_db = note.midi() > 60 ? -20.0 + over : -20.0;
    return piece;
}

TEST(SpanSummary, TellsMelodyFromBass) {
    for (const double over : {-3.0, 0.0, 5.0}) {
        const SpanSummary summary = summarise(duet(over), {});
        ASSERT_TRUE(summary.melody_over_bass_db.has_value());
        EXPECT_NEAR(*summary.melody_over_bass_db, over, 1e-9);
    }
}

TEST(SpanSummary, ASingleLineHasNoBalance) {
    EXPECT_FALSE(summarise(test::scalePiece(16), {}).melody_over_bass_db.has_value());
}

TEST(SpanSummary, NamesKeyAndScaleAndWhatIsOutside) {
    Piece piece = duet(0.0);
    EXPECT_TRUE(summarise(piece, {}).outside.empty());
    piece.notes[3].pitch.value = 66; // F sharp in C
    piece.notes[3].time.value.end_s = piece.notes[3].onset_s() + 0.2;
    const SpanSummary summary = summarise(piece, {});
    ASSERT_TRUE(summary.key.has_value());
    EXPECT_EQ(summary.key->tonic, 0);
    EXPECT_FALSE(summary.key->minor);
    ASSERT_EQ(summary.outside.size(), 1U);
    EXPECT_EQ(summary.outside[0], piece.notes[3].id);
}

TEST(SpanSummary, ASpanIsComparedWithThePiece) {
    Piece piece = duet(0.0);
    for (Note& note : piece.notes)
        if (note.onset_s() >= 3.0)
            note.loudness_db -= 8.0; // the echo
    const SpanSummary echo = summarise(piece, {3.0, 4.0});
    EXPECT_EQ(echo.notes, 4U);
    ASSERT_TRUE(echo.over_piece_db.has_value());
    EXPECT_NEAR(*echo.over_piece_db, -8.0, 1e-9);
    EXPECT_FALSE(summarise(piece, {}).over_piece_db.has_value());
}

TEST(SpanSummary, DampedStrokesAndSilenceSayNothing) {
    Piece ghosts = test::pieceOf({{0.0, 0.1, 40, {0, 0}, {Technique::GhostStroke}}});
    EXPECT_EQ(summarise(ghosts, {}).notes, 0U);
    EXPECT_FALSE(summarise(ghosts, {}).key.has_value());
    EXPECT_FALSE(summarise(Piece{}, {1.0, 2.0}).over_piece_db.has_value());
}

} // namespace
} // namespace wirenote
