#include "base/best_path.h"

#include <cmath>
#include <gtest/gtest.h>
#include <random>

namespace wirenote {
namespace {

struct Columns {
    std::vector<std::vector<double>> own;
    std::vector<StepCosts> steps; // of each column but the first, from the one before

    double costOf(const std::vector<std::size_t>& way) const {
        double cost = 0.0;
        for (std::size_t c = 0; c < own.size(); ++c)
            cost += own[c][way[c]] + (c > 0 ? steps[c].at(way[c - 1], way[c]) : 0.0);
        return cost;
    }
};

Columns anyColumns(std::mt19937& random, std::size_t count) {
    std::uniform_real_distribution<double> cost(0.0, 5.0);
    std::uniform_int_distribution<std::size_t> states(1, 4);
    Columns columns;
    for (std::size_t c = 0; c < count; ++c) {
        columns.own.emplace_back(states(random));
        for (double& own : columns.own.back())
            own = cost(random);
        columns.steps.emplace_back();
        if (c > 0)
            columns.steps.back().fill(
                columns.own[c - 1].size(), columns.own[c].size(), [&](auto, auto) {
                    return cost(random);
                });
    }
    return columns;
}

// Every way there is.
template <class Visit> void allWays(const Columns& columns, const Visit& visit) {
    std::vector<std::size_t> way(columns.own.size(), 0);
    while (true) {
        visit(way);
        std::size_t c = 0;
        while (c < way.size() && ++way[c] == columns.own[c].size())
            way[c++] = 0;
        if (c == way.size())
            return;
    }
}

TEST(BestPath, IsTheCheapestOfAllWaysAndSoIsTheWayThroughEachState) {
    std::mt19937 random(4);
    for (int round = 0; round < 50; ++round) {
        const Columns columns = anyColumns(random, 5);
        double least = INFINITY;
        auto through = columns.own;
        for (auto& column : through)
            std::ranges::fill(column, INFINITY);
        allWays(columns, [&](const std::vector<std::size_t>& way) {
            const double cost = columns.costOf(way);
            least = std::min(least, cost);
            for (std::size_t c = 0; c < way.size(); ++c)
                through[c][way[c]] = std::min(through[c][way[c]], cost);
        });
        const auto own = [&](std::size_t c) { return columns.own[c]; };
        const auto steps = [&](std::size_t c, StepCosts& costs) { costs = columns.steps[c]; };
        EXPECT_NEAR(columns.costOf(bestPath(5, own, steps)), least, 1e-9);
        const auto marginals = pathMarginals(5, own, steps);
        EXPECT_EQ(marginals.states, bestPath(5, own, steps));
        for (std::size_t c = 0; c < 5; ++c)
            for (std::size_t s = 0; s < through[c].size(); ++s)
                EXPECT_NEAR(marginals.through[c][s], through[c][s], 1e-9);
    }
}

TEST(BestPath, TakesNoStepThatCannotBeTakenAndNoColumnsAreNoWay) {
    const auto own = [](std::size_t) { return std::vector<double>{0.0, 3.0}; };
    const auto steps = [](std::size_t, StepCosts& costs) {
        costs.fill(2, 2, [](std::size_t from, std::size_t to) {
            return from == 1 && to == 1 ? 0.0 : INFINITY;
        });
    };
    EXPECT_EQ(bestPath(3, own, steps), (std::vector<std::size_t>{1, 1, 1}));
    EXPECT_EQ(pathMarginals(3, own, steps).through[1][0], INFINITY);
    EXPECT_TRUE(bestPath(0, own, steps).empty());
}

} // namespace
} // namespace wirenote
