// Which finger plucked: invented maps of change, a blot for each finger.
#include "seeing/pluck_fingers.h"

#include <algorithm>
#include <cmath>
#include <gtest/gtest.h>

namespace wirenote {
namespace {

// A blot about a place of the square, never twice the same.
PluckMap blot(double x, double y, double much, int grain) {
    PluckMap map;
    for (std::size_t i = 0; i < map.changed.size(); ++i) {
        const double dx = static_cast<double>(i % PluckMap::kSide) - x - 0.3 * (grain % 3 - 1);
        const double dy = static_cast<double>(i / PluckMap::kSide) - y + 0.2 * (grain % 5 - 2);
        map.changed[i] =
            static_cast<float>(much * std::exp(-(dx * dx + dy * dy) / 8.0) + 0.01 * (grain % 4));
    }
    return map;
}

std::size_t likeliest(const PluckSeen& seen) {
    return static_cast<std::size_t>(std::ranges::max_element(seen.fingers) - seen.fingers.begin());
}

TEST(PluckFingers, ThumbIndexMiddleAndRingAsTheirNotesGoUp) {
    struct Finger {
        double x, y;
        int midi;
    };
    constexpr Finger kFingers[] = {{8, 6, 45}, {11, 10, 57}, {13, 13, 61}, {12, 19, 65}};
    std::vector<PluckedNote> notes;
    std::vector<std::size_t> truth;
    for (int k = 0; k < 24; ++k) {
        const std::size_t finger = std::array{0U, 1U, 2U, 3U, 2U, 1U}[k % 6];
        notes.push_back(
            {blot(kFingers[finger].x, kFingers[finger].y, 3.0, k), kFingers[finger].midi + k % 2});
        truth.push_back(finger);
    }
    notes.push_back({blot(8, 6, 0.02, 1), 50}); // hardly anything moves
    notes.push_back({std::nullopt, 50});
    const auto seen = pluckFingers(notes, false);
    for (std::size_t k = 0; k < truth.size(); ++k)
        EXPECT_EQ(likeliest(seen[k]), truth[k]) << k;
    EXPECT_LT(*seen[0].unplucked, 0.1);
    EXPECT_GT(*seen[24].unplucked, 0.9);
    EXPECT_FALSE(seen[25].unplucked) << "out of sight";
}

TEST(PluckFingers, OnABassTheIndexIsNearerToTheNeck) {
    std::vector<PluckedNote> notes;
    for (int k = 0; k < 16; ++k)
        notes.push_back({k % 2 == 0 ? blot(7, 15, 3.0, k) : blot(10, 17, 2.0, k), 40 + k % 7});
    const auto seen = pluckFingers(notes, true);
    for (std::size_t k = 0; k < notes.size(); ++k)
        EXPECT_EQ(likeliest(seen[k]), k % 2 == 0 ? 1U : 2U) << k;
    EXPECT_EQ(seen[0].fingers[3], 0.0);
}

TEST(PluckFingers, OfTooFewNotesNothingIsTold) {
    const auto seen = pluckFingers({{blot(7, 15, 3.0, 0), 40}, {blot(9, 9, 3.0, 1), 45}}, false);
    EXPECT_EQ(seen[0].fingers[1], 0.0);
    EXPECT_FALSE(seen[0].unplucked);
}

// A hand whose fingers reach before it: the edge lies at them, the middle in the hand.
TEST(PluckMap, ItsEdgeIsWhereFingersReach) {
    PluckMap map;
    EXPECT_EQ(map.edge(), 1.0) << "nothing changed";
    for (std::size_t y = 8; y < 16; ++y)
        for (std::size_t x = 6; x < 20; ++x)
            map.changed[y * PluckMap::kSide + x] = x < 10 ? 1.0F : 3.0F;
    EXPECT_GT(map.edge(), 6.0 / 24.0);
    EXPECT_LT(map.edge(), 10.0 / 24.0);
    EXPECT_GT(map.along(), 12.0 / 24.0);
}

} // namespace
} // namespace wirenote
