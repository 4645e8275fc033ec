#include "signal/same_performance.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <gtest/gtest.h>
#include <random>

namespace wirenote {
namespace {

// A minute of playing: eighths and quarters, a few milliseconds off as hands are.
std::vector<OnsetPeak> playing(unsigned hand, double unevenness_s = 0.012) {
    std::mt19937 notes(5);    // the same music …
    std::mt19937 hands(hand); // … by other hands
    std::normal_distribution<double> early_or_late(0.0, unevenness_s);
    std::vector<OnsetPeak> attacks;
    for (double t = 1.0; t < 60.0; t += notes() % 3 == 0 ? 0.5 : 0.25)
        attacks.push_back({t + early_or_late(hands), 0.4 + 0.1 * static_cast<double>(notes() % 9)});
    std::ranges::sort(attacks, {}, &OnsetPeak::time_s);
    return attacks;
}

struct Change {
    const char* name;
    double zero_s;
    double rate;
    double from_s; // the copy has what lies between
    double to_s;
    int every; // of so many attacks coding loses one
};
void PrintTo(const Change& change, std::ostream* out) {
    *out << change.name;
}

std::vector<OnsetPeak> copyOf(const std::vector<OnsetPeak>& attacks, const Change& change) {
    std::mt19937 coding(9);
    std::normal_distribution<double> off(0.0, 0.0015);
    std::vector<OnsetPeak> copy;
    for (std::size_t i = 0; i < attacks.size(); ++i)
        if (attacks[i].time_s >= change.from_s && attacks[i].time_s < change.to_s &&
            static_cast<int>(i) % change.every != 0)
            copy.push_back({change.zero_s + change.rate * attacks[i].time_s + off(coding), 1.0});
    return copy;
}

class CopyOfAPerformance : public ::testing::TestWithParam<Change> {};
INSTANTIATE_TEST_SUITE_P(Copies,
                         CopyOfAPerformance,
                         ::testing::Values(Change{"later", 3.25, 1.0, 0.0, 60.0, 50},
                                           Change{"cut_in_front", -11.5, 1.0, 11.5, 60.0, 50},
                                           Change{"a_part", -20.0, 1.0, 20.0, 34.0, 50},
                                           Change{"coded_hard", 0.05, 1.0, 0.0, 60.0, 6},
                                           Change{"slower_tape", 0.4, 1.021, 0.0, 60.0, 50},
                                           Change{"film_speed", 0.0, 0.96, 0.0, 60.0, 50}),
                         [](const auto& row) { return std::string(row.param.name); });

TEST_P(CopyOfAPerformance, IsFoundWithinAMillisecond) {
    const Change change = GetParam();
    const auto fit = fitCopy(playing(1), copyOf(playing(1), change));
    ASSERT_TRUE(fit);
    for (const double at_s : {std::max(1.0, change.from_s), std::min(60.0, change.to_s)})
        EXPECT_NEAR(fit->at_zero_s + fit->rate * at_s, change.zero_s + change.rate * at_s, 0.0015);
    EXPECT_EQ(fit->rate == 1.0, change.rate == 1.0) << "no other speed is made up";
}

TEST(CopyOfAPerformance, IsNotTheSameMusicPlayedAgain) {
    for (unsigned hand = 2; hand < 8; ++hand) {
        EXPECT_FALSE(fitCopy(playing(1), playing(hand))) << hand;
        EXPECT_FALSE(fitCopy(playing(1, 0.02), playing(hand, 0.02))) << hand;
    }
}

TEST(CopyOfAPerformance, NeedsSomethingInCommonAndCanBeCancelled) {
    auto few = playing(1);
    few.resize(7);
    EXPECT_FALSE(fitCopy(few, playing(1)));
    EXPECT_FALSE(fitCopy(playing(1), few));
    EXPECT_FALSE(fitCopy({}, {}));
    std::atomic<bool> stop{true};
    JobControl job;
    job.cancel = &stop;
    EXPECT_FALSE(fitCopy(playing(1), playing(1), kCopyOfSound_s, job));
}

} // namespace
} // namespace wirenote
