#include "vision/neck_presence.h"

#include <cmath>
#include <gtest/gtest.h>
#include <numbers>
#include <vector>

namespace wirenote {
namespace {

constexpr int kWidth = 640;
constexpr int kHeight = 360;

struct Canvas {
    std::vector<std::uint8_t> rgb = std::vector<std::uint8_t>(3 * kWidth * kHeight, 90);
    void put(int x, int y, std::uint8_t v) {
        if (x >= 0 && x < kWidth && y >= 0 && y < kHeight)
            for (int c = 0; c < 3; ++c)
                rgb[static_cast<std::size_t>(3 * (y * kWidth + x) + c)] = v;
    }
    PictureView view() const { return {kWidth, kHeight, rgb}; }
};

// A neck of 500 × 44 pixels with 18 frets at L·(1 − 2^(−n/12)) (equal temperament), turned about
// the middle of the picture.
// `hidden` is the part of it that a hand covers, from and to along the neck.
Canvas neckAt(double degrees, double hidden_from = 0.0, double hidden_to = 0.0) {
    Canvas canvas;
    const double a = degrees * std::numbers::pi / 180.0;
    const auto shade = [=](double x, double y) {
        const double u = (x - 320) * std::cos(a) + (y - 180) * std::sin(a) + 250.0;
        const double v = (y - 180) * std::cos(a) - (x - 320) * std::sin(a);
        if (u >= hidden_from && u < hidden_to && std::abs(v) < 60)
            return 120.0;
        if (u < 0 || u > 500 || std::abs(v) > 22)
            return 90.0;
        for (int fret = 1; fret <= 18; ++fret)
            if (std::abs(v) < 19 && std::abs(u - 500.0 * (1.0 - std::exp2(-fret / 12.0)) /
                                                     (1.0 - std::exp2(-19 / 12.0))) < 1.3)
                return 215.0;
        return 45.0;
    };
    for (int y = 0; y < kHeight; ++y)
        for (int x = 0; x < kWidth; ++x) {
            double sum = 0.0; // nine points a pixel: edges without steps
            for (int k = 0; k < 9; ++k)
                sum += shade(x + (k % 3 - 1) / 3.0, y + (k / 3 - 1) / 3.0);
            canvas.put(x, y, static_cast<std::uint8_t>(sum / 9.0));
        }
    return canvas;
}

TEST(NeckPresence, SeesANeckAtAnyAngle) {
    for (const double degrees : {0.0, 12.0, -20.0, 35.0}) {
        const NeckPresence found = neckPresence(neckAt(degrees).view());
        EXPECT_GE(found.wires, 10) << degrees;
        EXPECT_GT(found.share, 0.5) << degrees;
        EXPECT_NEAR(std::remainder(found.angle_deg - degrees, 180.0), 0.0, 3.0);
    }
}

TEST(NeckPresence, AHandBeforeItHidesOnlyWhatItCovers) {
    const NeckPresence whole = neckPresence(neckAt(8.0).view());
    const NeckPresence behind = neckPresence(neckAt(8.0, 180.0, 290.0).view());
    EXPECT_NEAR(whole.frets, 18, 2);
    EXPECT_NEAR(behind.frets, 18, 2) << "from the first fret to the last";
    EXPECT_LT(behind.wires, whole.wires - 2);
    const NeckPresence end = neckPresence(neckAt(8.0, -20.0, 240.0).view());
    EXPECT_NEAR(end.frets, 11, 2) << "the upper end alone";
    EXPECT_NEAR(end.share, 0.35, 0.06);
}

// Lines that cross a band at even distances are a fence, a keyboard or a railing: frets draw nearer
// to each other towards the bridge.
TEST(NeckPresence, AFenceIsNoNeck) {
    Canvas fence;
    for (int y = 150; y < 200; ++y)
        for (int x = 20; x < 620; ++x)
            fence.put(x, y, x % 30 < 4 ? 215 : 45);
    EXPECT_EQ(neckPresence(fence.view()).frets, 0);
}

TEST(NeckPresence, SeesNoneWhereThereIsNone) {
    EXPECT_LT(neckPresence(Canvas().view()).frets, 3);
    Canvas wall; // bricks are long edges and short ones, but no band of them alone
    std::uint32_t state = 3;
    for (int y = 0; y < kHeight; ++y)
        for (int x = 0; x < kWidth; ++x) {
            state = state * 1664525U + 1013904223U;
            wall.put(x, y, static_cast<std::uint8_t>(60 + (state >> 24U) % 90));
        }
    EXPECT_LT(neckPresence(wall.view()).share, 0.15);
    EXPECT_EQ(neckPresence({10, 10, {}}).frets, 0) << "nothing to look at";
}

} // namespace
} // namespace wirenote
