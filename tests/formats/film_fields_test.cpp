// What is known of a film, through the piece file.
#include "formats/piece_json.h"

#include "piece/edits.h"
#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

Piece filmed() {
    Piece piece = test::pieceOf({{0.5, 0.9, 64, {2, 5}}});
    piece.takes = {Take{}};
    return piece;
}

TEST(FilmFields, AnOffsetStaysBeforeAnyNeckIsKnown) {
    Piece piece = filmed();
    piece.lead()->film.offset_s = 0.12;
    piece.lead()->film.offset = Basis::Set;
    piece.lead()->film.off_mm = 0.75;
    piece.lead()->film.passes = {{1.25, true, 0.75}, {1.5, false, 0.5}};
    const auto again = readPieceJson(writePieceJson(piece));
    ASSERT_TRUE(again.ok());
    EXPECT_EQ(again->lead()->film, piece.lead()->film);
}

TEST(FilmFields, WhatWasSeenAndShownStays) {
    Piece piece = filmed();
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    const NoteId note = piece.notes.front().id;
    ASSERT_TRUE(editor.giveNeck(0, {2.0, {1, 2, 3, 4, 5, 6, 7, 8}}).ok());
    EXPECT_EQ(piece.lead()->film.neck, Basis::Set);
    std::vector<Note> seen = piece.notes;
    seen.front().ownSound();
    seen.front().facts.front().seen.tips = {{1, 3.5, 2.0}, {2, 4.5, 2.0, 0.875}};
    seen.front().facts.front().seen.plucked_mm = 90.5;
    seen.front().facts.front().seen.swing_mm = 21.25;
    seen.front().facts.front().seen.heel_mm = 4.5;
    seen.front().facts.front().seen.forearm_mm = 1.25;
    seen.front().facts.front().seen.plucked = {0.0, 0.75, 0.25, 0.0, 0.0};
    seen.front().facts.front().seen.unplucked = 0.125;
    seen.front().facts.front().seen.trust = 1.0;
    ASSERT_TRUE(editor.showPlace(note, 0, 3, Finger::Ring, {2.5, 30.0, 40.0}).ok());
    ASSERT_TRUE(editor.adoptFilm(0, piece.lead()->film, seen).ok());
    EXPECT_EQ(piece.notes.front().seen()->shown, (ShownIn{2.5, 30.0, 40.0})) << "a person's word";
    const auto again = readPieceJson(writePieceJson(piece));
    ASSERT_TRUE(again.ok());
    EXPECT_EQ(*again->notes.front().seen(), *piece.notes.front().seen());
    EXPECT_EQ(again->lead()->film, piece.lead()->film);
    EXPECT_EQ(again->asPlayed().plans.front().position.value, (Position{3, 9}));
    EXPECT_EQ(again->asPlayed().plans.front().finger.value, Finger::Ring);
    // Moved elsewhere it rests on that picture no more.
    ASSERT_TRUE(editor.moveToString(note, 2).ok());
    EXPECT_FALSE(piece.notes.front().seen()->shown);
}

TEST(FilmFields, FramesOutOfOrderAreRefused) {
    Piece piece = filmed();
    piece.lead()->film.frames = {{2.0, {}}, {1.0, {}}};
    EXPECT_FALSE(readPieceJson(writePieceJson(piece)).ok());
}

} // namespace
} // namespace wirenote
