// The neck of a picture laid straight. For the inside of `vision` only: it speaks OpenCV.
#pragma once

#include "base/picture.h"
#include "seeing/neck_plane.h"

#include <opencv2/core.hpp>

namespace wirenote::vision {

// A stretch of the fingerboard's plane, and how many pixels a millimetre of it gets.
struct Strip {
    double from_mm = 0.0; // along the neck
    double to_mm = 0.0;
    double half_mm = 0.0; // across, to either side
    double pixels_per_mm = 1.0;

    int width() const { return static_cast<int>((to_mm - from_mm) * pixels_per_mm); }
    int height() const { return static_cast<int>(2.0 * half_mm * pixels_per_mm); }
    double alongAt(double x) const { return from_mm + x / pixels_per_mm; }
    double xOf(double along_mm) const { return (along_mm - from_mm) * pixels_per_mm; }
    double acrossAt(double y) const { return y / pixels_per_mm - half_mm; }
    double yOf(double across_mm) const { return (across_mm + half_mm) * pixels_per_mm; }
};

cv::Mat matOf(const PictureView& picture); // it does not own its bytes
cv::Mat greyOf(const cv::Mat& picture);    // the same where it is grey
// The part of a picture that shows the strip, straight; the thin strings' side is below.
cv::Mat straightened(const cv::Mat& picture, const Strip& strip, const Homography& neck);
cv::Mat greyStrip(const PictureView& picture, const Strip& strip, const Homography& neck);
// From millimetres of the plane to pixels of the strip.
cv::Matx33d stripMap(const Strip& strip);
cv::Matx33d matrixOf(const Homography& map);
Homography homographyOf(const cv::Matx33d& matrix);

} // namespace wirenote::vision
