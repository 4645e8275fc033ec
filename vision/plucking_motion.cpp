#include "vision/plucking_motion.h"

#include "vision/neck_picture.h"

#include <algorithm>
#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>
#include <vector>

namespace wirenote {

namespace {

cv::Mat greyOf(const PictureView& picture, const vision::Strip& strip, const Homography& neck) {
    cv::Mat grey;
    cv::cvtColor(
        vision::straightened(vision::matOf(picture), strip, neck), grey, cv::COLOR_RGB2GRAY);
    return grey;
}

} // namespace

struct PluckingMotion::State {
    vision::Strip strip;
    vision::Strip wide; // with all of the hand
    cv::Mat before;
};

PluckingMotion::PluckingMotion(const NeckPlane& plane)
    : m(std::make_unique<State>(
          State{{0.70 * plane.scale_mm(), 1.02 * plane.scale_mm(), 70.0, 0.5},
                {0.68 * plane.scale_mm(), 1.05 * plane.scale_mm(), 110.0, 0.8},
                {}})) {}
PluckingMotion::~PluckingMotion() = default;

double PluckingMotion::next(const PictureView& picture, const Homography& neck) {
    cv::Mat now = greyOf(picture, m->strip, neck);
    cv::GaussianBlur(now, now, {3, 3}, 0);
    const double moved = m->before.empty() ? 0.0
                                           : cv::norm(now, m->before, cv::NORM_L1) /
                                                 static_cast<double>(now.total());
    m->before = now;
    return moved;
}

double PluckingMotion::across_mm(const PictureView& first,
                                 const Homography& first_neck,
                                 const PictureView& second,
                                 const Homography& second_neck) const {
    const cv::Mat before = greyOf(first, m->wide, first_neck);
    const cv::Mat after = greyOf(second, m->wide, second_neck);
    cv::Mat flow;
    constexpr double kHalves = 0.5;
    constexpr int kLevels = 3;
    constexpr int kWindow = 21;
    constexpr int kRounds = 2;
    constexpr int kAbout = 5;
    constexpr double kSmooth = 1.1;
    cv::calcOpticalFlowFarneback(
        before, after, flow, kHalves, kLevels, kWindow, kRounds, kAbout, kSmooth, 0);
    cv::Mat changed;
    cv::absdiff(before, after, changed);
    cv::GaussianBlur(changed, changed, {9, 9}, 0);
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
