// Grips as players write them (common practice), and strokes put right.
#include "piece/edits.h"
#include "piece/grip.h"

#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

const Instrument kGuitar = standardInstrument(InstrumentKind::Guitar);

TEST(Grips, AreWrittenFromTheThickestStringOn) {
    const auto c = parseGrip("x32010", kGuitar);
    ASSERT_TRUE(c.ok());
    EXPECT_EQ(c->fretOn(5), 3);
    EXPECT_EQ(c->fretOn(6), Grip::kSilent);
    EXPECT_EQ(c->sounding(), 5);
    EXPECT_EQ(gripText(*c), "x 3 2 0 1 0");
    EXPECT_EQ(*parseGrip(gripText(*c), kGuitar), *c);
    EXPECT_EQ(parseGrip("x x 10-12-12-x", kGuitar)->fretOn(3), 12);
    EXPECT_EQ(*parseGrip("× 3 2 0 1 0", kGuitar), *c);
    const Instrument bass = standardInstrument(InstrumentKind::Bass);
    EXPECT_EQ(parseGrip("3 x x 4", bass)->fretOn(4), 3);
}

TEST(Grips, AreRefusedInOneSentence) {
    for (const char* text : {"", "x", "320", "xxxxxx", "x3201h", "x 3 2 0 1 99", "x 3 2 0 1 0 0"})
        EXPECT_FALSE(parseGrip(text, kGuitar).ok()) << text;
    EXPECT_NE(parseGrip("320", kGuitar).error().message.find("6 strings"), std::string::npos);
    EXPECT_NE(parseGrip("x 3 2 0 1 99", kGuitar).error().message.find("\"99\""), std::string::npos);
}

// C with a wrong note on string 4 and nothing on string 2, in a stroke with another one after it.
Piece strokes() {
    return test::pieceOf({{1.000, 1.8, 48, {5, 3}},
                          {1.010, 1.8, 54, {4, 4}},
                          {1.015, 1.7, 55, {3, 0}},
                          {1.020, 1.9, 64, {1, 0}},
                          {2.000, 2.5, 43, {6, 3}}});
}

TEST(Grips, PutAStrokeRight) {
    Piece piece = strokes();
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    ASSERT_TRUE(editor.setGrip({1, 2, 3, 4}, *parseGrip("x3201x", kGuitar)).ok());
    ASSERT_TRUE(checkPiece(piece).ok());
    std::vector<int> midis;
    for (const Note& note : piece.notes)
        midis.push_back(note.midi());
    std::ranges::sort(midis);
    EXPECT_EQ(midis, (std::vector<int>{43, 48, 52, 55, 60})) << "string 1 is silent in it";
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        EXPECT_EQ(piece.asPlayed().plans[i].position.isSet(), piece.notes[i].onset_s() < 1.5);
    const auto added = std::ranges::find(piece.notes, 60, &Note::midi);
    EXPECT_NEAR(added->onset_s(), 1.0, 0.03);
    EXPECT_NEAR(added->offset_s(), 1.8, 0.1);
}

TEST(Grips, OfAnotherInstrumentOrNothingChangeNothing) {
    Piece piece = strokes();
    const Piece before = piece;
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    EXPECT_FALSE(editor.setGrip({1}, Grip{{0, 0, 0, 0}}).ok());
    EXPECT_FALSE(editor.setGrip({}, *parseGrip("x32010", kGuitar)).ok());
    EXPECT_FALSE(editor.setGrip({1, 99}, *parseGrip("x32010", kGuitar)).ok());
    EXPECT_TRUE(piece == before);
}

TEST(ChordNames, AreKeptOneAMoment) {
    Piece piece = strokes();
    PieceEditor editor(piece, "2026-01-01T00:00:00Z");
    ASSERT_TRUE(editor.nameChord(2.0, "G").ok());
    ASSERT_TRUE(editor.nameChord(1.0, "C").ok());
    ASSERT_TRUE(editor.nameChord(1.01, "C add9").ok());
    ASSERT_EQ(piece.chord_names.size(), 2U);
    EXPECT_EQ(piece.chord_names[0].name, "C add9");
    EXPECT_TRUE(checkPiece(piece).ok());
    ASSERT_TRUE(editor.nameChord(1.0, "").ok());
    EXPECT_EQ(piece.chord_names.size(), 1U);
    EXPECT_FALSE(editor.nameChord(-1.0, "C").ok());
}

} // namespace
} // namespace wirenote
