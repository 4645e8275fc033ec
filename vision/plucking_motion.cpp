#include "vision/plucking_motion.h"

#include "vision/hand_flow.h"
#include "vision/neck_picture.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <vector>

namespace wirenote {

namespace {

// Where strings are plucked, as shares of the scale.
constexpr double kPluckedFrom = 0.68;
constexpr double kPluckedTo = 1.02;

} // namespace

struct PluckingMotion::State {
    vision::Strip strip;
    vision::Strip wide; // with all of the hand
    vision::Strip sharp;
    cv::Mat before;
};

PluckingMotion::PluckingMotion(const NeckPlane& plane)
    : m(std::make_unique<State>(
          State{{kPluckedFrom * plane.scale_mm(), kPluckedTo * plane.scale_mm(), 90.0, 0.5},
                {kPluckedFrom * plane.scale_mm(), 1.05 * plane.scale_mm(), 110.0, 0.8},
                {kPluckedFrom * plane.scale_mm(), kPluckedTo * plane.scale_mm(), 90.0, 0.8},
                {}})) {}
PluckingMotion::~PluckingMotion() = default;

double PluckingMotion::fromBridge_mm(const NeckPlane& plane, double along) {
    return plane.scale_mm() * (1.0 - kPluckedFrom - along * (kPluckedTo - kPluckedFrom));
}

PluckingMotion::Moved PluckingMotion::next(const PictureView& picture, const Homography& neck) {
    constexpr float kNoise = 6.0F; // grey
    cv::Mat now = vision::greyStrip(picture, m->strip, neck);
    cv::GaussianBlur(now, now, {3, 3}, 0);
    Moved moved;
    if (!m->before.empty()) {
        const cv::Mat flow = vision::flowBetween(m->before, now, 11);
        cv::Mat changed;
        cv::absdiff(now, m->before, changed);
        cv::GaussianBlur(changed, changed, {7, 7}, 0);
        for (int y = 0; y < flow.rows; ++y)
            for (int x = 0; x < flow.cols; ++x) {
                const float weight = static_cast<float>(changed.at<unsigned char>(y, x)) - kNoise;
                const float down = flow.at<cv::Vec2f>(y, x)[1];
                if (weight > 0.0F)
                    (down > 0.0F ? moved.down : moved.up) += weight * std::abs(down);
            }
    }
    m->before = now;
    return moved;
}

bool PluckingMotion::inSight(const PictureView& picture, const Homography& neck) const {
    constexpr int kSteps = 5;
    constexpr double kMost = 0.7;
    const vision::Strip& strip = m->strip;
    int inside = 0;
    for (int i = 0; i < kSteps; ++i)
        for (int k = 0; k < kSteps; ++k) {
            const double along_mm =
                strip.from_mm + (strip.to_mm - strip.from_mm) * i / (kSteps - 1);
            const double across_mm = 0.5 * strip.half_mm * (2.0 * k / (kSteps - 1) - 1.0);
            const PicturePoint at = project(neck, {along_mm, across_mm});
            inside += at.x >= 0.0 && at.y >= 0.0 && at.x < picture.width && at.y < picture.height;
        }
    return inside >= kMost * kSteps * kSteps;
}

PluckMap PluckingMotion::map(const PictureView& first,
                             const Homography& first_neck,
                             const PictureView& second,
                             const Homography& second_neck) const {
    constexpr float kNoise = 8.0F; // grey
    cv::Mat before;
    cv::Mat after;
    vision::greyStrip(first, m->sharp, first_neck).convertTo(before, CV_32F);
    vision::greyStrip(second, m->sharp, second_neck).convertTo(after, CV_32F);
    cv::GaussianBlur(before, before, {0, 0}, 1.2);
    cv::GaussianBlur(after, after, {0, 0}, 1.2);
    cv::Mat changed = cv::max(cv::abs(after - before) - kNoise, 0.0F);
    constexpr int kSide = PluckMap::kSide;
    cv::resize(changed, changed, {kSide, kSide}, 0, 0, cv::INTER_AREA);
    PluckMap map;
    for (int y = 0; y < kSide; ++y)
        for (int x = 0; x < kSide; ++x)
            map.changed[static_cast<std::size_t>(y * kSide + x)] = changed.at<float>(y, x);
    return map;
}

double PluckingMotion::across_mm(const PictureView& first,
                                 const Homography& first_neck,
                                 const PictureView& second,
                                 const Homography& second_neck) const {
    const cv::Mat before = vision::greyStrip(first, m->wide, first_neck);
    const cv::Mat after = vision::greyStrip(second, m->wide, second_neck);
    const auto [flow, changed] = vision::handFlow(before, after);
    // What changes most is the hand; the tenth of the picture that does so counts.
    std::vector<unsigned char> sorted(changed.begin<unsigned char>(), changed.end<unsigned char>());
    const auto tenth = sorted.begin() + static_cast<std::ptrdiff_t>(sorted.size() * 9 / 10);
    std::ranges::nth_element(sorted, tenth);
    double sum = 0.0;
    double weights = 1e-6;
    for (int y = 0; y < flow.rows; ++y)
        for (int x = 0; x < flow.cols; ++x)
            if (const unsigned char weight = changed.at<unsigned char>(y, x); weight > *tenth) {
                sum += weight * flow.at<cv::Vec2f>(y, x)[1];
                weights += weight;
            }
    return sum / weights / m->wide.pixels_per_mm;
}

} // namespace wirenote
