#include "base/rational.h"
#include "base/time_range.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

TEST(Rational, IsReducedWithPositiveDenominator) {
    EXPECT_EQ(Rational(6, -4), Rational(-3, 2));
    EXPECT_EQ(Rational(0, 7).den(), 1);
    EXPECT_EQ(Rational(-3, 2).toString(), "-3/2");
}

TEST(Rational, AddsTripletsWithoutLoss) {
    Rational sum;
    for (int i = 0; i < 12; ++i)
        sum += Rational(1, 12);
    EXPECT_EQ(sum, Rational(1));
    EXPECT_EQ(Rational(1, 3) + Rational(1, 4), Rational(7, 12));
    EXPECT_EQ(Rational(1, 3) * Rational(3, 2), Rational(1, 2));
    EXPECT_EQ(Rational(3, 4) / Rational(1, 8), Rational(6));
}

TEST(Rational, FloorsTowardsMinusInfinity) {
    EXPECT_EQ(Rational(7, 2).floor(), 3);
    EXPECT_EQ(Rational(-1, 2).floor(), -1);
    EXPECT_EQ(Rational(-4).floor(), -4);
    EXPECT_LT(Rational(1, 3), Rational(1, 2));
}

TEST(TimeRange, IsHalfOpenAtEveryEdge) {
    const TimeRange range{1.0, 2.0};
    EXPECT_TRUE(range.contains(1.0));
    EXPECT_FALSE(range.contains(2.0));
    EXPECT_FALSE(range.overlaps({2.0, 3.0}));
    EXPECT_FALSE(range.overlaps({0.0, 1.0}));
    EXPECT_TRUE(range.overlaps({1.999, 3.0}));
    EXPECT_TRUE((TimeRange{2.0, 2.0}).empty());
    EXPECT_EQ(range.clippedTo({1.5, 9.0}), (TimeRange{1.5, 2.0}));
}

} // namespace
} // namespace wirenote
