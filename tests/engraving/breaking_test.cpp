// How bars share lines and lines share pages, and how marks find room.
#include "engraving/block.h"
#include "engraving/breaking.h"
#include "engraving/notation.h"

#include <gmock/gmock.h>

namespace wirenote {
namespace {

using ::testing::ElementsAre;

// Bars of four columns, each as wide as it likes to be.
std::vector<SetBar> barsOf(const std::vector<double>& widths_mm) {
    std::vector<SetBar> bars(widths_mm.size());
    for (std::size_t b = 0; b < bars.size(); ++b)
        for (int c = 0; c < 4; ++c) {
            Column column;
            column.at = Rational(static_cast<std::int64_t>(4 * b) + c);
            column.ideal = widths_mm[b] / 4.0;
            bars[b].columns.push_back(column);
        }
    return bars;
}

TEST(Breaking, BarsOfOneWidthFillTheirLinesEvenly) {
    const auto bars = barsOf(std::vector<double>(8, 45.0));
    EXPECT_THAT(breakLines(bars, 180.0, 180.0, Measures{}), ElementsAre(0U, 4U));
}

TEST(Breaking, NoBarIsLeftAlone) {
    const auto bars = barsOf(std::vector<double>(9, 45.0));
    const auto firsts = breakLines(bars, 180.0, 180.0, Measures{});
    EXPECT_LE(firsts.back(), 7U) << "the last line has two at the least";
}

TEST(Breaking, ABarThatIsTooWideHasALineOfItsOwn) {
    const auto bars = barsOf({40.0, 400.0, 40.0});
    EXPECT_THAT(breakLines(bars, 180.0, 180.0, Measures{}), ElementsAre(0U, 1U, 2U));
}

TEST(Breaking, RoomIsSharedToTheLastMillimetre) {
    auto bars = barsOf({30.0, 50.0, 60.0});
    const double spread = spreadFor(bars, 0, 3, 180.0);
    double x = 0.0;
    for (SetBar& bar : bars) {
        bar.place(x, spread);
        x += bar.width;
    }
    EXPECT_NEAR(x, 180.0, 0.01);
    EXPECT_GT(bars[2].columns[1].x - bars[2].columns[0].x,
              bars[0].columns[1].x - bars[0].columns[0].x);
}

std::vector<SystemHeight>
systems(std::size_t count, double height_mm = 40.0, std::size_t with_rest = 1000) {
    std::vector<SystemHeight> all(count, SystemHeight{height_mm, false});
    if (with_rest < count)
        all[with_rest].ends_with_rest = true;
    return all;
}

TEST(Breaking, APageHoldsWhatFits) {
    EXPECT_THAT(breakPages(systems(10), 200.0, 240.0, 8.0, false), ElementsAre(0U, 4U, 9U));
    EXPECT_THAT(breakPages(systems(1), 10.0, 240.0, 8.0, false), ElementsAre(0U))
        << "what fits nowhere stands somewhere";
    EXPECT_THAT(breakPages({}, 200.0, 240.0, 8.0, false), ElementsAre(0U));
}

// A page is left a little emptier where there is time to turn it, but not half empty.
TEST(Breaking, APageIsTurnedAtARestWhereThatIsCheap) {
    EXPECT_THAT(breakPages(systems(12, 20.0, 8), 290.0, 290.0, 8.0, true), ElementsAre(0U, 9U));
    EXPECT_THAT(breakPages(systems(12, 20.0, 1), 290.0, 290.0, 8.0, true), ElementsAre(0U, 10U));
}

TEST(Block, WhatIsPutOverAndUnderIsClearOfEverything) {
    Block block(100.0);
    block.line(Sign::StaffLine, {0.0, 0.0, 100.0, 0.0, 0.1, false});
    block.text(Sign::Technique, "P.M.", 20.0, -2.0, 3.0);
    EXPECT_NEAR(block.over(60.0, 70.0, 1.0), -1.0, 0.1);
    EXPECT_LT(block.over(15.0, 25.0, 1.0), -4.0) << "over the words";
    EXPECT_GE(block.under(15.0, 25.0, 1.0), 1.0);
    Block below(100.0);
    below.text(Sign::Chord, "G", 20.0, -8.0, 4.0);
    const double down = below.skyline().clearBelow(block.skyline(), 2.0);
    below.moveBy(0.0, down);
    for (const Ink& a : block.ink())
        for (const Ink& b : below.ink())
            EXPECT_FALSE(overlap(a.box, b.box)) << down;
}

// Where notes stand on the staff (common practice): guitars and basses an octave above their sound.
TEST(Notation, NotesStandWhereReadersLookForThem) {
    EXPECT_EQ(staffStep({'E', 0, 4}, false), 3) << "the open first string: the uppermost space";
    EXPECT_EQ(staffStep({'B', 0, 3}, false), 0) << "the open second string: the middle line";
    EXPECT_EQ(staffStep({'E', 0, 2}, false), -11) << "the open sixth: under three ledger lines";
    EXPECT_EQ(staffStep({'E', 0, 1}, true), -6) << "the open E of a bass: a ledger line";
    EXPECT_EQ(staffStep({'G', 0, 2}, true), 3 + 7 - 7) << "its open G: the uppermost space";
}

} // namespace
} // namespace wirenote
