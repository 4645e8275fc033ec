// Following a neck and finding fingertips in pictures of the simulated camera, whose truth is
// known.
#include "vision/neck_tracker.h"

#include "camera/filmed_neck.h"
#include "vision/arm_motion.h"
#include "vision/fretting_hand.h"
#include "vision/plucking_motion.h"

#include <cmath>
#include <gtest/gtest.h>
#include <vector>

namespace wirenote {
namespace {

const NeckPlane kPlane(standardInstrument(InstrumentKind::Guitar));

struct Shot {
    std::vector<std::uint8_t> rgb;
    standin::FilmedView view;
    standin::FilmedHand hand;
    PictureView picture() const { return {view.width, view.height, rgb}; }
};

Shot shot(const Homography& neck, const standin::FilmedHand& hand, std::uint32_t grain) {
    standin::FilmedView view;
    view.neck = neck;
    view.grain = grain;
    view.background = 0.7 * grain;
    return {standin::filmNeck(kPlane, view, hand), view, hand};
}

// From nearer by: a pixel is less than a millimetre.
Shot near(const standin::FilmedHand& hand, int picture) {
    standin::FilmedView view;
    view.width = 960;
    view.height = 540;
    view.neck = standin::cameraOn(kPlane,
                                  2.0 * std::sin(0.13 * picture),
                                  1.5,
                                  {250.0 + 4.0 * std::sin(0.31 * picture), 105.0});
    view.grain = static_cast<std::uint32_t>(picture + 1);
    view.fine = false;
    return {standin::filmNeck(kPlane, view, hand), view, hand};
}

// How far the corners of the neck are apart in the picture, at the most.
double apart(const Homography& a, const Homography& b) {
    double most = 0.0;
    for (const double fret : {0.0, 12.0})
        for (const bool thin : {false, true}) {
            const PicturePoint here = project(a, kPlane.edge(fret, thin));
            const PicturePoint there = project(b, kPlane.edge(fret, thin));
            most = std::max(most, std::hypot(here.x - there.x, here.y - there.y));
        }
    return most;
}

// A camera that is held by hand, and zooms a little.
Homography shaken(int picture) {
    return standin::cameraOn(kPlane,
                             2.0 * std::sin(0.13 * picture),
                             1.0 + 0.002 * picture,
                             {4.0 * std::sin(0.31 * picture), 3.0 * std::cos(0.23 * picture)});
}

TEST(NeckTracker, FollowsAShakingCameraWithAHandOnTheNeck) {
    const Shot first = shot(shaken(0), {}, 1);
    NeckTracker tracker(kPlane, first.picture(), first.view.neck);
    for (int k = 1; k <= 30; ++k) {
        const int fret = 1 + k / 4; // the hand goes up the neck
        const Shot now = shot(
            shaken(k), standin::handOn(kPlane, fret, 3, fret), static_cast<std::uint32_t>(k + 1));
        const auto found = tracker.follow(now.picture());
        ASSERT_TRUE(found) << k;
        EXPECT_LT(apart(*found, now.view.neck), 2.0) << "pixels, picture " << k;
    }
}

TEST(NeckTracker, IsFoundAgainAfterACut) {
    const Shot first = shot(standin::cameraOn(kPlane, 0.0, 1.0, {}), {}, 1);
    NeckTracker tracker(kPlane, first.picture(), first.view.neck);
    ASSERT_TRUE(tracker.follow(first.picture()));
    const Shot cut = shot(
        standin::cameraOn(kPlane, 7.0, 0.9, {-30.0, 24.0}), standin::handOn(kPlane, 5, 2, 6), 2);
    tracker.follow(cut.picture());
    const auto found = tracker.follow(cut.picture());
    ASSERT_TRUE(found);
    EXPECT_LT(apart(*found, cut.view.neck), 2.5);
}

// Made larger by as much as three frets are closer together: wires lie where others were.
TEST(NeckTracker, IsNotTakenForOthersOfItsFretsAfterAZoom) {
    for (const double larger : {1.06, 1.10, 1.15, 1.19, 1.22, 1.26}) {
        const Shot first =
            shot(standin::cameraOn(kPlane, 0.0, 0.8, {}), standin::handOn(kPlane, 7, 2, 8), 1);
        NeckTracker tracker(kPlane, first.picture(), first.view.neck);
        const Shot cut = shot(
            standin::cameraOn(kPlane, 0.0, 0.8 * larger, {}), standin::handOn(kPlane, 7, 2, 8), 2);
        tracker.follow(cut.picture());
        const auto found = tracker.follow(cut.picture());
        ASSERT_TRUE(found) << larger;
        EXPECT_LT(apart(*found, cut.view.neck), 3.0) << larger;
    }
}

TEST(NeckTracker, ALostNeckIsSaidToBeLost) {
    const Shot first = shot(standin::cameraOn(kPlane, 0.0, 1.0, {}), {}, 1);
    NeckTracker tracker(kPlane, first.picture(), first.view.neck);
    const std::vector<std::uint8_t> black(first.rgb.size(), 0);
    EXPECT_FALSE(tracker.follow({first.view.width, first.view.height, black}));
    EXPECT_TRUE(tracker.follow(first.picture())) << "and found again when it is back";
}

// The hand moves along the neck, so that every part of the neck is seen without it.
TEST(FrettingHand, FindsTheTipsOfFourFingers) {
    FrettingHand finder(kPlane);
    std::vector<Shot> shots;
    for (int k = 0; k < 24; ++k) {
        const int fret = 1 + (4 * k) % 9;
        shots.push_back(near(standin::handOn(kPlane, fret, 1 + k % 6, fret + k % 4), k));
        finder.learn(shots.back().picture(), shots.back().view.neck);
    }
    ASSERT_TRUE(finder.settle());
    int found = 0;
    int all = 0;
    for (const Shot& one : shots) {
        const auto tips = finder.tips(one.picture(), one.view.neck);
        for (const PlanePoint& true_tip : one.hand.tips) {
            ++all;
            for (const PlanePoint& tip : tips)
                if (std::hypot(tip.along_mm - true_tip.along_mm,
                               tip.across_mm - true_tip.across_mm) < 5.0) {
                    ++found;
                    break;
                }
        }
    }
    EXPECT_GE(found, 0.9 * all) << found << " of " << all;
    const Shot nobody = near({}, 40);
    EXPECT_TRUE(finder.tips(nobody.picture(), nobody.view.neck).empty()) << "no hand, no tips";
}

TEST(FrettingHand, SaysWhenThereIsTooLittleToGoBy) {
    FrettingHand finder(kPlane);
    const Shot one = shot(shaken(0), {}, 1);
    finder.learn(one.picture(), one.view.neck);
    EXPECT_FALSE(finder.settle());
    EXPECT_TRUE(finder.tips(one.picture(), one.view.neck).empty());
}

// A finger that plucks moves nothing of the arm behind it.
TEST(ArmMotion, StaysWhereFingersMoveAlone) {
    const Homography neck = standin::cameraOn(kPlane, 0.0, 0.8, {-120.0, 0.0});
    constexpr double kFromBridge = 0.16; // of the scale
    const auto plucking = [&](double across_mm) {
        standin::FilmedHand hand;
        hand.tips = {{(1.0 - kFromBridge) * kPlane.scale_mm(), across_mm}};
        return shot(neck, hand, 1);
    };
    const Shot before = plucking(-5.0);
    const Shot after = plucking(5.0);
    const ArmMotion arm = armMotion(
        kPlane, kFromBridge * kPlane.scale_mm(), before.picture(), neck, after.picture(), neck);
    ASSERT_TRUE(arm.forearm_mm);
    EXPECT_LT(*arm.forearm_mm, 0.5);
    const Homography close = standin::cameraOn(kPlane, 0.0, 1.6, {900.0, 0.0});
    EXPECT_FALSE(armMotion(kPlane,
                           kFromBridge * kPlane.scale_mm(),
                           before.picture(),
                           close,
                           after.picture(),
                           close)
                     .forearm_mm)
        << "out of the picture";
}

TEST(PluckingMotion, ComesFromWhereStringsArePlucked) {
    PluckingMotion motion(kPlane);
    const Homography neck = standin::cameraOn(kPlane, 0.0, 1.0, {});
    const Shot still = shot(neck, {}, 1);
    const auto moved = [&](const Shot& one) {
        const auto found = motion.next(one.picture(), neck);
        return found.down + found.up;
    };
    EXPECT_EQ(moved(still), 0.0);
    EXPECT_EQ(moved(still), 0.0) << "nothing has changed";
    standin::FilmedHand plucking;
    plucking.tips = {{0.85 * kPlane.scale_mm(), 0.0}};
    EXPECT_GT(moved(shot(neck, plucking, 1)), 1.0);
}

} // namespace
} // namespace wirenote
