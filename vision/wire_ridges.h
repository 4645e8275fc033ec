// Thin lines that cross a picture more or less upright. For the inside of `vision` only: it speaks
// OpenCV.
#pragma once

#include "base/picture.h"

#include <opencv2/core.hpp>
#include <vector>

namespace wirenote::vision {

constexpr int kLookedAt = 1280; // pixels of the longer side, when a neck is looked for

// Grey, of that size; `scale`: of its pixels to the picture's own.
cv::Mat greyToLookAt(const PictureView& picture, double& scale);

// A picture turned so that a direction lies level.
struct Turned {
    cv::Mat grey;
    cv::Matx23d back; // from its pixels to those of the picture

    cv::Point2d backAt(cv::Point2d point) const {
        return {back(0, 0) * point.x + back(0, 1) * point.y + back(0, 2),
                back(1, 0) * point.x + back(1, 1) * point.y + back(1, 2)};
    }
};
Turned turned(const cv::Mat& grey, double angle_deg);

// The directions in which most length of edges lies, the fullest first, well apart; −90..90 degrees
// from level. Line segments: von Gioi et al., "LSD: a fast line segment detector with a false
// detection control", IEEE PAMI 32, 2010 (OpenCV's implementation).
std::vector<double> mainAngles(const cv::Mat& grey);

// How clearly a bright or dark line of a few pixels goes through each pixel, upright or leaning by
// up to a third: the second difference along the row, summed with its sign over `half` rows to
// either side, so that strings and grain, which change along it, cancel.
cv::Mat wireRidges(const cv::Mat& grey, int half);

} // namespace wirenote::vision
