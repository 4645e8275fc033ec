#include "vision/hand_flow.h"

#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>

namespace wirenote::vision {

cv::Mat flowBetween(const cv::Mat& before, const cv::Mat& after, int window) {
    cv::Mat flow;
    constexpr double kHalves = 0.5;
    constexpr int kLevels = 3;
    constexpr int kRounds = 2;
    constexpr int kAbout = 5;
    constexpr double kSmooth = 1.1;
    cv::calcOpticalFlowFarneback(
        before, after, flow, kHalves, kLevels, window, kRounds, kAbout, kSmooth, 0);
    return flow;
}

HandFlow handFlow(const cv::Mat& before, const cv::Mat& after) {
    constexpr int kWindow = 21;
    HandFlow flow;
    flow.moved = flowBetween(before, after, kWindow);
    cv::absdiff(before, after, flow.changed);
    cv::GaussianBlur(flow.changed, flow.changed, {9, 9}, 0);
    return flow;
}

} // namespace wirenote::vision
