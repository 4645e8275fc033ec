#include "base/line_fit.h"
#include "base/peaks.h"

#include <cmath>
#include <gtest/gtest.h>
#include <vector>

namespace wirenote {
namespace {

// Anscombe, "Graphs in Statistical Analysis", The American Statistician 27 (1973): four sets of
// points that look nothing alike and have the same line, y = 3.00 + 0.500 x. The points and the
// line from memory.
TEST(LineFit, GivesThePublishedLineOfAnscombesSets) {
    const std::vector<double> x = {10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5};
    const std::vector<double> x4 = {8, 8, 8, 8, 8, 8, 8, 19, 8, 8, 8};
    const std::vector<std::pair<std::vector<double>, std::vector<double>>> sets = {
        {x, {8.04, 6.95, 7.58, 8.81, 8.33, 9.96, 7.24, 4.26, 10.84, 4.82, 5.68}},
        {x, {9.14, 8.14, 8.74, 8.77, 9.26, 8.10, 6.13, 3.10, 9.13, 7.26, 4.74}},
        {x, {7.46, 6.77, 12.74, 7.11, 7.81, 8.84, 6.08, 5.39, 8.15, 6.42, 5.73}},
        {x4, {6.58, 5.76, 7.71, 8.84, 8.47, 7.04, 5.25, 12.50, 5.56, 7.91, 6.89}}};
    for (const auto& [xs, ys] : sets) {
        LineFit fit;
        for (std::size_t i = 0; i < xs.size(); ++i)
            fit.add(xs[i], ys[i]);
        EXPECT_NEAR(fit.line().slope, 0.500, 0.0006);
        EXPECT_NEAR(fit.line().at_zero, 3.00, 0.005);
        EXPECT_TRUE(fit.line().fitted);
    }
}

TEST(LineFit, WeightsCountLikeSoManyPoints) {
    LineFit once;
    once.add(0.0, 1.0);
    once.add(1.0, 4.0, 3.0);
    once.add(2.0, 2.0);
    LineFit thrice;
    thrice.add(0.0, 1.0);
    for (int k = 0; k < 3; ++k)
        thrice.add(1.0, 4.0);
    thrice.add(2.0, 2.0);
    EXPECT_NEAR(once.line().slope, thrice.line().slope, 1e-12);
    EXPECT_NEAR(once.line().at_zero, thrice.line().at_zero, 1e-12);
    EXPECT_NEAR(once.line().varAt(1.0), 0.2, 1e-12) << "five points of variance 1 at their mean";
}

TEST(LineFit, OfOnePlaceIsLevel) {
    LineFit fit;
    fit.add(2.0, 5.0);
    fit.add(2.0, 7.0);
    EXPECT_FALSE(fit.line().fitted);
    EXPECT_DOUBLE_EQ(fit.line().at(9.0), 6.0);
}

TEST(Peaks, AParabolaGivesItsVertexBack) {
    for (const double vertex : {-0.4, 0.0, 0.3}) {
        const auto y = [vertex](double x) { return 2.0 - (x - vertex) * (x - vertex); };
        EXPECT_NEAR(vertexOf(y(-1), y(0), y(1)), vertex, 1e-12);
        EXPECT_NEAR(vertexOf(-y(-1), -y(0), -y(1)), vertex, 1e-12) << "a dip";
    }
    EXPECT_EQ(vertexOf(1.0, 2.0, 3.0), 0.0) << "a straight line has none";
}

TEST(Peaks, TheHighestIsFoundAndAnEdgeIsNone) {
    const std::vector<double> v = {0, 1, 3, 1, 2, 5, 9};
    EXPECT_EQ(highestPeak(v, 1, 4), std::optional<std::size_t>(2));
    EXPECT_EQ(highestPeak(v, 1, 5), std::nullopt) << "the highest rises beyond the stretch";
    EXPECT_EQ(highestPeak(v, 1, 5, AtEdge::HighestWithin), std::optional<std::size_t>(2));
    EXPECT_EQ(highestPeak(v, 3, 3), std::nullopt);
}

} // namespace
} // namespace wirenote
