// Shapes that come again: common practice.
#include "fretting/grip_shape.h"
#include "support/pieces.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

using Grip = std::vector<Position>;

class GripShapes : public ::testing::Test {
  protected:
    Instrument guitar = standardInstrument(InstrumentKind::Guitar);

    // The shape of the last of these grips, which are struck one after the other.
    GripShape last(const std::vector<Grip>& grips) const {
        std::vector<test::Row> rows;
        for (std::size_t g = 0; g < grips.size(); ++g)
            for (const Position& place : grips[g])
                rows.push_back({1.0 * static_cast<double>(g),
                                1.0 * static_cast<double>(g) + 0.9,
                                guitar.midiAt(place),
                                place});
        const Piece piece = test::pieceOf(rows);
        return gripShape(guitar, piece.rows(), piece.notes.size() - 1);
    }
    std::string like(const Grip& grip) const {
        const auto open = openGripLike(guitar, grip);
        return open ? open->chord + std::string("+") + std::to_string(open->frets_up) : "";
    }
};

TEST_F(GripShapes, ABarreChordIsAnOpenOneFurtherUp) {
    EXPECT_EQ(like({{6, 1}, {5, 3}, {4, 3}, {3, 2}, {2, 1}, {1, 1}}), "E+1") << "F";
    EXPECT_EQ(like({{6, 5}, {5, 7}, {4, 7}, {3, 5}, {2, 5}, {1, 5}}), "Em+5") << "A minor";
    EXPECT_EQ(like({{5, 3}, {4, 5}, {3, 5}, {2, 5}}), "A+3") << "C";
    EXPECT_EQ(like({{5, 2}, {4, 4}, {3, 4}, {2, 3}, {1, 2}}), "Am+2") << "B minor";
    EXPECT_EQ(like({{3, 4}, {2, 5}, {1, 3}}), "Dm+2") << "E minor on the three thin strings";
    EXPECT_EQ(like({{4, 4}, {3, 6}, {2, 7}, {1, 6}}), "D+4");
}

TEST_F(GripShapes, OthersAreNot) {
    EXPECT_EQ(like({{5, 3}, {4, 2}, {3, 0}, {2, 1}, {1, 0}}), "") << "it is the open one";
    EXPECT_EQ(like({{6, 3}, {5, 5}}), "") << "a fifth is a part of many";
    EXPECT_EQ(like({{3, 5}, {2, 5}, {1, 5}}), "") << "a stop is missing, or too many are alike";
    EXPECT_EQ(like({{6, 1}, {5, 4}, {4, 3}}), "");
    Instrument seven = guitar;
    seven.strings.push_back(seven.strings.back());
    EXPECT_FALSE(openGripLike(seven, Grip{{3, 4}, {2, 5}, {1, 3}}));
}

TEST_F(GripShapes, TheSameShapeIsFoundPastGripsThatAreStruckAgain) {
    const Grip low{{4, 3}, {3, 5}, {2, 6}, {1, 5}};
    const Grip high{{4, 5}, {3, 7}, {2, 8}, {1, 7}};
    EXPECT_EQ(last({low, high}).moved, 2);
    EXPECT_EQ(last({low, high, high}).moved, 2);
    EXPECT_EQ(last({high, low}).moved, -2);
    EXPECT_FALSE(last({low}).moved);
    EXPECT_FALSE(last({{{4, 0}, {3, 2}}, {{4, 2}, {3, 4}}}).moved)
        << "an open string does not move";
    EXPECT_FALSE(last({low, {{1, 5}}}).moved) << "a single note is no grip";
    EXPECT_EQ(last({low, high}).like->frets_up, 5);
}

} // namespace
} // namespace wirenote
