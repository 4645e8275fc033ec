// Other readings on demand. What each wish means is common practice.
#include "session/other_readings.h"

#include "session/resolve.h"
#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

Piece openTune() {
    return test::pieceOf({{0.0, 0.4, 55},
                          {0.5, 0.9, 57},
                          {1.0, 1.4, 59},
                          {1.5, 1.9, 60},
                          {2.0, 2.4, 62},
                          {2.5, 2.9, 64},
                          {3.0, 3.4, 65},
                          {3.5, 3.9, 67}});
}

MadeReading made(Piece& piece, const char* wish) {
    placeAndStroke(piece);
    const auto parsed = parseRecipe(wish, piece.instrument);
    EXPECT_TRUE(parsed.ok()) << wish;
    const auto reading = makeReading(piece, *parsed, "now");
    EXPECT_TRUE(reading.ok());
    EXPECT_TRUE(checkPiece(piece).ok());
    return *reading;
}

TEST(OtherReadings, WithoutOpenStringsHasNone) {
    Piece piece = openTune();
    const MadeReading reading = made(piece, "no-open");
    EXPECT_TRUE(reading.unmet.empty());
    EXPECT_EQ(piece.readings[reading.index].head.name, "no open strings");
    for (const NotePlan& plan : piece.readings[reading.index].plans)
        EXPECT_GT(plan.position.value.fret, 0);
    EXPECT_TRUE(std::ranges::any_of(piece.asPlayed().plans, [](const NotePlan& plan) {
        return plan.position.value.fret == 0;
    })) << "as played stays as it is";
}

TEST(OtherReadings, OnePositionKeepsTheHandWhereItIs) {
    Piece piece = openTune();
    const MadeReading reading = made(piece, "one-position:5");
    EXPECT_TRUE(reading.unmet.empty());
    for (const NotePlan& plan : piece.readings[reading.index].plans)
        EXPECT_TRUE(plan.position.value.fret == 0 || plan.hand_fret == 5);
    const MadeReading best = made(piece, "one-position");
    EXPECT_TRUE(best.unmet.empty());
}

TEST(OtherReadings, ABarreIsGotRoundOrSaid) {
    // The three thin strings at one fret can be held by three fingers; six cannot.
    Piece triad = test::pieceOf({{0.0, 0.9, 62}, {0.005, 0.9, 66}, {0.01, 0.9, 71}});
    EXPECT_TRUE(made(triad, "no-barre").unmet.empty());
    std::vector<test::Row> rows;
    for (const int midi : {43, 50, 55, 59, 62, 67})
        rows.push_back({0.005 * static_cast<double>(rows.size()), 0.9, midi});
    Piece grip = test::pieceOf(rows);
    for (NotePlan& plan : grip.asPlayed().plans)
        plan.position = {};
    const MadeReading reading = made(grip, "no-barre");
    for (const NotePlan& plan : grip.readings[reading.index].plans)
        EXPECT_TRUE(plan.placed());
}

TEST(OtherReadings, WhatIsWishedTwiceIsMadeAnew) {
    Piece piece = openTune();
    EXPECT_EQ(made(piece, "easiest").index, made(piece, "easiest").index);
    EXPECT_EQ(piece.readings.size(), 2U);
}

TEST(OtherReadings, WhatCannotBeWishedIsSaidInOneSentence) {
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    for (const char* wrong : {"",
                              "fast",
                              "stretch",
                              "stretch:9",
                              "stretch:x",
                              "stretch:3.5",
                              "no-open:3",
                              "tempo:0",
                              "tempo:1.2x",
                              "easier:4",
                              "transpose",
                              "transpose:25",
                              "capo:99",
                              "tuning:H2",
                              "instrument:harp",
                              "plucking:",
                              "score:",
                              "no-open+no-barre",
                              "no-open+"})
        EXPECT_FALSE(parseRecipe(wrong, guitar).ok()) << wrong;
    EXPECT_EQ(parseRecipe("stretch:4", guitar)->name, "stretch of 4 frets");
    EXPECT_EQ(parseRecipe("tempo:1.2", guitar)->name, "tempo ×1.2");
    const auto several = parseRecipe("transpose:-1+capo:3+no-barre", guitar);
    EXPECT_EQ(several->name, "1 semitone lower, capo 3, no barre");
    EXPECT_EQ(several->instrument->capo, 3);
    EXPECT_EQ(several->semitones, -1);
    EXPECT_EQ(several->wish.kind, WishKind::NoBarre);
}

TEST(OtherReadings, OneIsMadeFromAnother) {
    Piece piece = openTune();
    const MadeReading up = made(piece, "transpose:2");
    const auto closed = parseRecipe("no-open", piece.instrument);
    const auto both = makeReading(piece, *closed, "now", up.index);
    ASSERT_TRUE(both.ok());
    const ReadingHead& head = piece.readings[both->index].head;
    EXPECT_EQ(head.semitones, 2);
    EXPECT_EQ(head.made_from, "2 semitones higher");
    EXPECT_EQ(piece.readings[both->index].plans.size(), piece.notes.size());
    EXPECT_TRUE(both->unmet.empty());
}

TEST(OtherReadings, EveryNoteIsStruckWhereSlursAreNotWished) {
    Piece piece = openTune();
    piece.notes[1].techniques = {Technique::HammerOn, Technique::Vibrato};
    const MadeReading reading = made(piece, "no-slurs");
    const Departure& departs = piece.readings[reading.index].plans[1].departure;
    ASSERT_TRUE(departs.techniques);
    EXPECT_EQ(*departs.techniques, std::vector{Technique::Vibrato});
    EXPECT_TRUE(piece.notes[1].has(Technique::HammerOn)) << "it was played so";
}

TEST(OtherReadings, TheTempoSaysWhichAreForIt) {
    Piece piece = openTune();
    const std::size_t easy = made(piece, "easiest").index;
    piece.readings[easy].head.tempi = {96.0, 0.0};
    EXPECT_TRUE(readingsFor(piece, 90.0).empty());
    EXPECT_EQ(readingsFor(piece, 96.0), std::vector{easy});
}

} // namespace
} // namespace wirenote
