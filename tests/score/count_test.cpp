// What is counted, against what lesson books print.
#include "score/count.h"

#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

// "1*" a note begins there; "1" nothing does.
std::string counted(const Piece& piece, CountSchool school, int bars = 1) {
    std::string text;
    const double end = 4.0 * bars;
    for (const CountMark& mark : countOf(piece, quantise(piece), school)) {
        if (mark.quarters < Rational(0) || mark.quarters.toDouble() >= end)
            continue;
        text += (text.empty() ? "" : " ") + mark.text + (mark.sounds ? "*" : "") +
                (mark.syncopated ? "!" : "");
    }
    return text;
}

Piece rhythm(const std::vector<std::pair<double, double>>& quarters) {
    std::vector<test::Row> rows;
    for (const auto& [start, end] : quarters)
        rows.push_back({0.5 * start, 0.5 * end - 0.02, 60});
    Piece piece = test::pieceOf(rows);
    piece.timeline.beats_s.resize(9);
    return piece;
}

// The counts printed under these rhythms in any method (common practice).
TEST(Count, GoesAsDeepAsTheBarNeeds) {
    EXPECT_EQ(counted(rhythm({{0, 1}, {1, 2}, {2, 3}, {3, 4}}), CountSchool::Numbers),
              "1* 2* 3* 4*");
    EXPECT_EQ(counted(rhythm({{0, 1}, {1, 1.5}, {1.5, 2}, {2, 4}}), CountSchool::Numbers),
              "1* & 2* &* 3* & 4 &");
    EXPECT_EQ(counted(rhythm({{0, .25}, {.25, .5}, {.5, .75}, {.75, 1}, {1, 2}, {2, 4}}),
                      CountSchool::Numbers),
              "1* e* &* a* 2* e & a 3* e & a 4 e & a");
    EXPECT_EQ(counted(rhythm({{0, 1. / 3}, {1. / 3, 2. / 3}, {2. / 3, 1}, {1, 2}, {2, 4}}),
                      CountSchool::Numbers),
              "1* &* a* 2* 3* 4");
}

TEST(Count, SyncopationIsMarked) {
    EXPECT_EQ(counted(rhythm({{0, .5}, {.5, 1.5}, {1.5, 2}, {2, 4}}), CountSchool::Numbers),
              "1* &*! 2 &* 3* & 4 &");
}

TEST(Count, HasMoreThanOneSchool) {
    const Piece piece = rhythm({{0, .25}, {.25, .5}, {.5, .75}, {.75, 1}, {1, 2}, {2, 3}, {3, 4}});
    EXPECT_EQ(counted(piece, CountSchool::German),
              "1* e* und* e* 2* e und e 3* e und e 4* e und e");
    EXPECT_EQ(counted(piece, CountSchool::Takadimi),
              "ta* ka* di* mi* ta* ka di mi ta* ka di mi ta* ka di mi");
}

TEST(Count, CompoundMetresCountTheirQuavers) {
    std::vector<test::Row> rows;
    for (int k = 0; k < 6; ++k)
        rows.push_back({0.25 * k, 0.25 * k + 0.23, 60 + k});
    Piece piece = test::pieceOf(rows, 80.0); // dotted quarters, 0.75 s
    piece.timeline.metre = {6, 8};
    std::string text;
    for (const CountMark& mark : countOf(piece, quantise(piece), CountSchool::Numbers))
        if (mark.quarters < Rational(3))
            text += mark.text + (mark.on_beat ? "|" : " ");
    EXPECT_EQ(text, "1|2 3 4|5 6 ");
    EXPECT_EQ(syllable(CountSchool::Numbers, {6, 8}, 1, Rational(1, 6)), "&");
    EXPECT_EQ(syllable(CountSchool::Takadimi, {6, 8}, 1, Rational(1, 3)), "ki");
}

TEST(Count, EveryMetreIsCountedThrough) {
    for (const char* text : {"2/4", "3/4", "4/4", "5/4", "6/8", "7/8", "9/8", "12/8"}) {
        const Metre metre = *parseMetre(text);
        for (int beat = 0; beat < metre.feltBeats(); ++beat)
            for (const auto school :
                 {CountSchool::Numbers, CountSchool::German, CountSchool::Takadimi})
                EXPECT_FALSE(syllable(school, metre, beat, Rational(0)).empty()) << text;
    }
    EXPECT_EQ(syllable(CountSchool::Numbers, {7, 8}, 6, Rational(0)), "7");
    EXPECT_EQ(syllable(CountSchool::Numbers, {4, 4}, 0, Rational(1, 5)), "") << "nobody says it";
}

} // namespace
} // namespace wirenote
