#include "base/nearby.h"

#include <gtest/gtest.h>

namespace wirenote {
namespace {

TEST(Nearby, TheWeightyMedianIsNotMovedByManySmallValuesNorByOneLarge) {
    std::vector<double> values(1000, 0.01);
    values.insert(values.end(), 20, 1.0);
    values.push_back(15.0);
    EXPECT_DOUBLE_EQ(weightyMedian(values), 1.0);
    std::vector<double> none;
    EXPECT_DOUBLE_EQ(weightyMedian(none), 0.0);
}

TEST(Nearby, TheQuantileLeavesItsShareBelow) {
    std::vector<double> values = {5, 1, 4, 2, 3};
    EXPECT_DOUBLE_EQ(*quantile(values, 0.0), 1.0);
    EXPECT_DOUBLE_EQ(*quantile(values, 0.5), 3.0);
    EXPECT_DOUBLE_EQ(*quantile(values, 0.9), 5.0);
    std::vector<double> none;
    EXPECT_FALSE(quantile(none, 0.5).has_value());
}

TEST(Nearby, WhatIsFarAwayDoesNotCountAndGapsTakeTheNearest) {
    std::vector<TimedValue> values;
    for (int i = 0; i < 10; ++i)
        values.push_back({static_cast<double>(i), 1.0});
    for (int i = 0; i < 10; ++i)
        values.push_back({60.0 + i, 9.0});
    const Nearby near(values, 4.0, [](std::vector<double>& v) { return *quantile(v, 0.5); });
    EXPECT_DOUBLE_EQ(near.at(-100.0), 1.0);
    EXPECT_DOUBLE_EQ(near.at(5.0), 1.0);
    EXPECT_DOUBLE_EQ(near.at(30.0), 1.0);
    EXPECT_DOUBLE_EQ(near.at(65.0), 9.0);
    EXPECT_DOUBLE_EQ(near.at(1e6), 9.0);
    EXPECT_TRUE(Nearby({}, 4.0, [](std::vector<double>&) { return 0.0; }).empty());
}

} // namespace
} // namespace wirenote
