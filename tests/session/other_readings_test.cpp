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
    const auto parsed = parseWish(wish);
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
    for (const char* wrong :
         {"", "fast", "stretch", "stretch:9", "stretch:x", "no-open:3", "tempo:0", "tempo:1.2x"})
        EXPECT_FALSE(parseWish(wrong).ok()) << wrong;
    EXPECT_EQ(wishName(*parseWish("stretch:4")), "stretch of 4 frets");
    EXPECT_EQ(wishName(*parseWish("tempo:1.2")), "tempo ×1.2");
}

} // namespace
} // namespace wirenote
