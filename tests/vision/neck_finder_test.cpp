// Finding a neck in pictures of the simulated camera, whose truth is known.
#include "vision/neck_finder.h"

#include "camera/filmed_neck.h"

#include <algorithm>
#include <cmath>
#include <gtest/gtest.h>
#include <vector>

namespace wirenote {
namespace {

const NeckPlane kPlane(standardInstrument(InstrumentKind::Guitar));
constexpr int kWidth = 960;
constexpr int kHeight = 540;

std::vector<std::uint8_t> picture(const Homography& neck, const standin::FilmedHand& hand) {
    standin::FilmedView view;
    view.width = kWidth;
    view.height = kHeight;
    view.neck = neck;
    return standin::filmNeck(kPlane, view, hand);
}

Homography camera(double lean_deg, double zoom, PicturePoint moved) {
    return standin::cameraOn(kPlane, lean_deg, zoom, moved);
}

// How far the corners are off at the most, in widths of the nut. `turned`: thick and thin swapped.
double off(const Homography& found, const Homography& truth, bool turned = false) {
    const auto at = [](const Homography& map, double fret, bool thin) {
        return project(map, kPlane.edge(fret, thin));
    };
    const auto apart = [](PicturePoint a, PicturePoint b) {
        return std::hypot(a.x - b.x, a.y - b.y);
    };
    double most = 0.0;
    for (const double fret : {0.0, 12.0})
        for (const bool thin : {false, true})
            most = std::max(most, apart(at(found, fret, thin != turned), at(truth, fret, thin)));
    return most / apart(at(truth, 0.0, false), at(truth, 0.0, true));
}

TEST(NeckFinder, FindsTheNeckAndCountsItsFrets) {
    for (const double lean_deg : {0.0, 9.0, -14.0}) {
        const Homography truth = camera(lean_deg, 1.5, {250.0, 105.0});
        const auto rgb = picture(truth, standin::handOn(kPlane, 5, 3, 6));
        const auto found = findNeck(kPlane, {kWidth, kHeight, rgb});
        ASSERT_TRUE(found) << lean_deg;
        EXPECT_LT(off(found->neck, truth), 0.2) << lean_deg;
        EXPECT_GT(found->margin, 2.0) << "nut and inlays are in sight";
    }
}

// What is told of a grid that lies beside the wires is how far beside.
TEST(NeckFinder, TellsHowFarTheWiresLieFromAMap) {
    const Homography truth = camera(6.0, 1.5, {250.0, 105.0});
    const auto rgb = picture(truth, standin::handOn(kPlane, 5, 3, 6));
    const PictureView view{kWidth, kHeight, rgb};
    const auto there = neckOff_mm(kPlane, view, truth);
    ASSERT_TRUE(there);
    EXPECT_LT(*there, 0.6);
    for (const double aside_mm : {1.5, 2.5}) {
        Homography beside = truth; // the plane moved along the neck
        for (const std::size_t row : {0U, 3U, 6U})
            beside[row + 2] += aside_mm * truth[row];
        const auto off = neckOff_mm(kPlane, view, beside);
        ASSERT_TRUE(off) << aside_mm;
        EXPECT_NEAR(*off, aside_mm, 0.6);
    }
    const std::vector<std::uint8_t> nothing(rgb.size(), 90);
    EXPECT_FALSE(neckOff_mm(kPlane, {kWidth, kHeight, nothing}, truth)) << "no wires in it";
}

// Whoever knows no better takes the player for right-handed: thick and thin strings change places.
TEST(NeckFinder, InAMirrorTheSidesChangePlaces) {
    const Homography truth = camera(4.0, 1.5, {250.0, 105.0});
    auto rgb = picture(truth, {});
    for (int y = 0; y < kHeight; ++y)
        for (int x = 0; x < kWidth / 2; ++x)
            for (int c = 0; c < 3; ++c)
                std::swap(rgb[static_cast<std::size_t>(3 * (y * kWidth + x) + c)],
                          rgb[static_cast<std::size_t>(3 * (y * kWidth + kWidth - 1 - x) + c)]);
    const auto found = findNeck(kPlane, {kWidth, kHeight, rgb});
    ASSERT_TRUE(found);
    Homography back = found->neck; // as the picture was before
    for (std::size_t i = 0; i < 3; ++i)
        back[i] = (kWidth - 1) * back[6 + i] - back[i];
    EXPECT_LT(off(back, truth, true), 0.2);
}

TEST(NeckFinder, CountsByInlaysWhereTheNutIsOutOfThePicture) {
    // The head lies to the right: everything up to the second fret is beyond the edge.
    const Homography truth = camera(3.0, 2.2, {640.0, 150.0});
    ASSERT_GT(project(truth, {kPlane.wire_mm(1.5), 0.0}).x, kWidth);
    const auto rgb = picture(truth, {});
    const auto found = findNeck(kPlane, {kWidth, kHeight, rgb});
    ASSERT_TRUE(found);
    const PicturePoint twelfth = project(found->neck, kPlane.edge(12.0, true));
    const PicturePoint true_twelfth = project(truth, kPlane.edge(12.0, true));
    EXPECT_NEAR(twelfth.x, true_twelfth.x, 6.0);
    EXPECT_NEAR(twelfth.y, true_twelfth.y, 6.0);
}

TEST(NeckFinder, ThereIsNoneInAFenceOrAnEmptyRoom) {
    std::vector<std::uint8_t> room(3 * kWidth * kHeight, 90);
    EXPECT_FALSE(findNeck(kPlane, {kWidth, kHeight, room}));
    for (int y = 200; y < 280; ++y)
        for (int x = 30; x < 930; ++x)
            for (int c = 0; c < 3; ++c)
                room[static_cast<std::size_t>(3 * (y * kWidth + x) + c)] = x % 45 < 5 ? 215 : 45;
    EXPECT_FALSE(findNeck(kPlane, {kWidth, kHeight, room}));
    EXPECT_FALSE(findNeck(kPlane, {10, 10, {}}));
}

} // namespace
} // namespace wirenote
