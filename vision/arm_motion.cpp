#include "vision/arm_motion.h"

#include "vision/hand_flow.h"
#include "vision/neck_picture.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

namespace wirenote {
namespace {

// A ring about the place where strings are plucked, by the lengths of a hand (from memory: 60 to 90
// mm from the pick lies the heel, the wrist ends before 120).
struct Ring {
    double from_mm = 0.0;
    double to_mm = 0.0;
};
constexpr Ring kHeel = {60.0, 90.0};
constexpr Ring kForearm = {120.0, 190.0};
constexpr double kFingers_mm = 30.0; // what lies further over the thin strings is no arm
constexpr double kPixelsPer_mm = 0.5;

// Whether a place behind the pick is in the ring.
bool within(const Ring& ring, PlanePoint pick, PlanePoint at) {
    const double across_mm = at.across_mm - pick.across_mm;
    const double far_mm = std::hypot(at.along_mm - pick.along_mm, across_mm);
    return across_mm < kFingers_mm && far_mm >= ring.from_mm && far_mm < ring.to_mm;
}

bool inPicture(const PictureView& picture, PicturePoint at) {
    return at.x >= 0.0 && at.y >= 0.0 && at.x < picture.width && at.y < picture.height;
}

// Weighted by how much changed; where hardly anything did, nothing moved.
std::optional<double> movedIn(const Ring& ring,
                              PlanePoint pick,
                              const vision::Strip& strip,
                              const vision::HandFlow& flow,
                              const PictureView& picture,
                              const Homography& neck) {
    constexpr double kNoise = 4.0;     // grey
    constexpr double kNothing = 0.05;  // grey, on average over the ring
    constexpr double kLeastSeen = 0.4; // of the ring
    double moved = 0.0;
    double weights = 0.0;
    int all = 0;
    int seen = 0;
    for (int y = 0; y < flow.changed.rows; ++y)
        for (int x = 0; x < flow.changed.cols; ++x) {
            const PlanePoint at{strip.alongAt(x), strip.acrossAt(y)};
            if (!within(ring, pick, at))
                continue;
            ++all;
            if (!inPicture(picture, project(neck, at)))
                continue;
            ++seen;
            const double weight = std::max(0.0, flow.changed.at<unsigned char>(y, x) - kNoise);
            moved += weight * flow.moved.at<cv::Vec2f>(y, x)[1];
            weights += weight;
        }
    if (all == 0 || seen < kLeastSeen * all)
        return std::nullopt;
    return std::abs(moved / (weights + kNothing * seen)) / strip.pixels_per_mm;
}

} // namespace

ArmMotion armMotion(const NeckPlane& plane,
                    double plucked_mm,
                    const PictureView& first,
                    const Homography& first_neck,
                    const PictureView& second,
                    const Homography& second_neck) {
    const PlanePoint pick{plane.scale_mm() - plucked_mm, 0.0};
    const vision::Strip strip{pick.along_mm - kForearm.to_mm,
                              pick.along_mm + kForearm.to_mm,
                              kForearm.to_mm,
                              kPixelsPer_mm};
    const vision::HandFlow flow = vision::handFlow(vision::greyStrip(first, strip, first_neck),
                                                   vision::greyStrip(second, strip, second_neck));
    return {movedIn(kHeel, pick, strip, flow, second, second_neck),
            movedIn(kForearm, pick, strip, flow, second, second_neck)};
}

} // namespace wirenote
