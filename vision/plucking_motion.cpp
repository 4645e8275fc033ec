#include "vision/plucking_motion.h"

#include "vision/neck_picture.h"

#include <opencv2/imgproc.hpp>

namespace wirenote {

struct PluckingMotion::State {
    vision::Strip strip;
    cv::Mat before;
};

PluckingMotion::PluckingMotion(const NeckPlane& plane)
    : m(std::make_unique<State>(
          State{{0.70 * plane.scale_mm(), 1.02 * plane.scale_mm(), 70.0, 0.5}, {}})) {}
PluckingMotion::~PluckingMotion() = default;

double PluckingMotion::next(const PictureView& picture, const Homography& neck) {
    cv::Mat now;
    cv::cvtColor(
        vision::straightened(vision::matOf(picture), m->strip, neck), now, cv::COLOR_RGB2GRAY);
    cv::GaussianBlur(now, now, {3, 3}, 0);
    const double moved = m->before.empty() ? 0.0
                                           : cv::norm(now, m->before, cv::NORM_L1) /
                                                 static_cast<double>(now.total());
    m->before = now;
    return moved;
}

} // namespace wirenote
