// A piece for another instrument, tuning, capo or key.
#include "session/arrange.h"

#include "piece/edits.h"
#include "piece/in_reading.h"
#include "session/resolve.h"
#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

constexpr const char* kNow = "2026-01-01T00:00:00Z";

Piece tune() {
    Piece piece = test::scalePiece(24);
    piece.chord_names = {{0.0, "E"}};
    placeAndStroke(piece);
    return piece;
}

ReadingRecipe recipe(const Instrument& instrument, int semitones, ReadingWish wish = {}) {
    ReadingRecipe asked;
    asked.name = "other";
    asked.instrument = instrument;
    asked.semitones = semitones;
    asked.wish = wish;
    return asked;
}

// Each note that has a place sounds as it is written there.
void expectSounds(const Piece& piece) {
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const NotePlan& plan = piece.asPlayed().plans[i];
        ASSERT_TRUE(plan.placed()) << i;
        EXPECT_EQ(piece.instrument.midiAt(plan.position.value), piece.notes[i].midi()) << i;
    }
    EXPECT_TRUE(checkPiece(piece).ok());
}

TEST(Arrange, AnotherKeyIsThatMuchHigherEverywhere) {
    Piece from = tune();
    from.notes[2].slip = Slip{from.notes[2].midi() + 1};
    const auto made = arrange(from, recipe(from.instrument, 5), kNow);
    ASSERT_TRUE(made.ok());
    EXPECT_TRUE(made->made.moved.empty());
    EXPECT_TRUE(made->made.unmet.empty());
    for (std::size_t i = 0; i < from.notes.size(); ++i) {
        EXPECT_EQ(made->piece.notes[i].midi(), from.notes[i].midi() + 5);
        EXPECT_EQ(made->piece.notes[i].time.value, from.notes[i].time.value);
    }
    EXPECT_TRUE(made->piece.chord_names.empty()) << "they are of the old key";
    EXPECT_EQ(made->piece.notes[2].slip->meant_midi, from.notes[2].midi() + 6)
        << "what was meant, too";
    expectSounds(made->piece);
    EXPECT_FALSE(arrange(from, recipe(from.instrument, 250), kNow).ok());
}

TEST(Arrange, AnotherTuningAndACapoKeepThePitches) {
    const Piece from = tune();
    Instrument open_d = from.instrument;
    ASSERT_TRUE(setTuning(open_d, "D2 A2 D3 F#3 A3 D4").ok());
    Instrument capo = from.instrument;
    ASSERT_TRUE(setCapo(capo, 2).ok());
    for (const Instrument& to : {open_d, capo}) {
        const auto made = arrange(from, recipe(to, 0), kNow);
        ASSERT_TRUE(made.ok());
        EXPECT_EQ(made->piece.chord_names.size(), 1U);
        expectSounds(made->piece);
        for (std::size_t i = 0; i < from.notes.size(); ++i)
            EXPECT_EQ((made->piece.notes[i].midi() - from.notes[i].midi()) % 12, 0);
    }
    EXPECT_FALSE(arrange(from, recipe(capo, -12), kNow)->made.moved.empty())
        << "the lowest E is under the capo";
}

TEST(Arrange, WhatLiesOutsideTheNeckIsTakenAnOctaveAwayAndSaid) {
    const Piece from = test::pieceOf({{0.0, 0.4, 40}, {0.5, 0.9, 76}, {1.0, 1.4, 88}});
    const auto made = arrange(from, recipe(standardInstrument(InstrumentKind::Bass), 0), kNow);
    ASSERT_TRUE(made.ok());
    ASSERT_EQ(made->made.moved.size(), 2U);
    for (const OctaveMove& one : made->made.moved)
        EXPECT_EQ(one.semitones % 12, 0);
    EXPECT_LT(made->made.moved.front().semitones, 0);
    EXPECT_EQ(made->made.moved.back().note, from.notes[2].id);
    expectSounds(made->piece);
}

TEST(Arrange, WishesHoldThereToo) {
    const Piece from = tune();
    const auto made = arrange(from, recipe(from.instrument, 3, {WishKind::NoOpen, 0.0}), kNow);
    ASSERT_TRUE(made.ok());
    EXPECT_TRUE(made->made.unmet.empty());
    for (const NotePlan& plan : made->piece.asPlayed().plans)
        EXPECT_GT(plan.position.value.fret, 0);
}

TEST(Arrange, AReadingAloneIsThePieceInIt) {
    Piece piece = tune();
    ASSERT_TRUE(PieceEditor(piece, kNow).addReading("other", "").ok());
    const Piece other = inReading(piece, 1);
    ASSERT_EQ(other.readings.size(), 1U);
    EXPECT_EQ(other.asPlayed().head.name, "other");
    EXPECT_TRUE(checkPiece(other).ok());
}

} // namespace
} // namespace wirenote
