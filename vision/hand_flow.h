// How what is in a strip moves. For the inside of `vision` only: it speaks OpenCV.
#pragma once

#include <opencv2/core.hpp>

namespace wirenote::vision {

struct HandFlow {
    cv::Mat moved;   // two floats a pixel: how far along and across it goes, in pixels
    cv::Mat changed; // grey, smoothed
};

// Dense flow: Farnebäck, "Two-frame motion estimation based on polynomial expansion", 2003
// (OpenCV's implementation). `window`: pixels that move together.
cv::Mat flowBetween(const cv::Mat& before, const cv::Mat& after, int window);
// Of a whole hand.
HandFlow handFlow(const cv::Mat& before, const cv::Mat& after);

} // namespace wirenote::vision
