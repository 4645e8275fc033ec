#include "vision/neck_picture.h"

#include <opencv2/imgproc.hpp>

namespace wirenote::vision {

cv::Mat matOf(const PictureView& picture) {
    // OpenCV has no view of bytes that may only be read.
    return {picture.height,
            picture.width,
            CV_8UC(picture.channels),
            const_cast<std::uint8_t*>(picture.bytes.data())}; // NOLINT
}

cv::Mat greyOf(const cv::Mat& picture) {
    if (picture.channels() == 1)
        return picture;
    cv::Mat grey;
    cv::cvtColor(picture, grey, cv::COLOR_RGB2GRAY);
    return grey;
}

cv::Matx33d matrixOf(const Homography& map) {
    return cv::Matx33d(map.data());
}

Homography homographyOf(const cv::Matx33d& matrix) {
    Homography map{};
    for (std::size_t i = 0; i < map.size(); ++i)
        map[i] = matrix.val[i] / matrix.val[8];
    return map;
}

cv::Matx33d stripMap(const Strip& strip) {
    const double s = strip.pixels_per_mm;
    return {s, 0.0, -s * strip.from_mm, 0.0, s, s * strip.half_mm, 0.0, 0.0, 1.0};
}

cv::Mat straightened(const cv::Mat& picture, const Strip& strip, const Homography& neck) {
    cv::Mat out;
    cv::warpPerspective(picture,
                        out,
                        stripMap(strip) * matrixOf(neck).inv(),
                        {strip.width(), strip.height()},
                        cv::INTER_LINEAR);
    return out;
}

cv::Mat greyStrip(const PictureView& picture, const Strip& strip, const Homography& neck) {
    return greyOf(straightened(matOf(picture), strip, neck));
}

} // namespace wirenote::vision
