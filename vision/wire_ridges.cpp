#include "vision/wire_ridges.h"

#include "vision/neck_picture.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <opencv2/imgproc.hpp>

namespace wirenote::vision {
namespace {

constexpr double kShortest = 0.02; // of the longer side: a piece of an edge along the neck
constexpr double kParallel_deg = 4.0;
constexpr std::size_t kDirections = 3;
constexpr double kWireWidth = 1.3; // standard deviation of the smoothing, in pixels
constexpr std::array kLeans = {-0.35, -0.2, -0.1, 0.0, 0.1, 0.2, 0.35};

double apart(double a_deg, double b_deg) {
    return std::abs(std::remainder(a_deg - b_deg, 180.0));
}

} // namespace

cv::Mat greyToLookAt(const PictureView& picture, double& scale) {
    cv::Mat grey = greyOf(matOf(picture));
    const double by = static_cast<double>(kLookedAt) / std::max(picture.width, picture.height);
    scale = 1.0 / by;
    if (by != 1.0)
        cv::resize(grey, grey, {}, by, by, by < 1.0 ? cv::INTER_AREA : cv::INTER_LINEAR);
    return grey;
}

Turned turned(const cv::Mat& grey, double angle_deg) {
    const double a = angle_deg * std::numbers::pi / 180.0;
    const cv::Point2d along(std::cos(a), std::sin(a));
    const cv::Point2d across(-std::sin(a), std::cos(a));
    const std::array<cv::Point2d, 4> corners = {cv::Point2d(0, 0),
                                                cv::Point2d(grey.cols, 0),
                                                cv::Point2d(0, grey.rows),
                                                cv::Point2d(grey.cols, grey.rows)};
    cv::Point2d least(1e9, 1e9);
    cv::Point2d most(-1e9, -1e9);
    for (const cv::Point2d& corner : corners) {
        const cv::Point2d at(corner.dot(along), corner.dot(across));
        least = {std::min(least.x, at.x), std::min(least.y, at.y)};
        most = {std::max(most.x, at.x), std::max(most.y, at.y)};
    }
    const cv::Point2d origin = least.x * along + least.y * across;
    Turned out;
    out.back = {along.x, across.x, origin.x, along.y, across.y, origin.y};
    cv::warpAffine(grey,
                   out.grey,
                   out.back,
                   {static_cast<int>(most.x - least.x), static_cast<int>(most.y - least.y)},
                   cv::INTER_LINEAR | cv::WARP_INVERSE_MAP,
                   cv::BORDER_REPLICATE);
    return out;
}

std::vector<double> mainAngles(const cv::Mat& grey) {
    std::vector<cv::Vec4f> lines;
    cv::createLineSegmentDetector(cv::LSD_REFINE_NONE)->detect(grey, lines);
    std::vector<std::pair<double, double>> segments; // length, angle
    for (const cv::Vec4f& l : lines) {
        const double length = std::hypot(l[2] - l[0], l[3] - l[1]);
        if (length >= kShortest * std::max(grey.cols, grey.rows))
            segments.emplace_back(
                length,
                std::remainder(std::atan2(l[3] - l[1], l[2] - l[0]) * 180.0 / std::numbers::pi,
                               180.0));
    }
    std::vector<std::pair<double, double>> found;
    for (const auto& candidate : segments) {
        double sum = 0.0;
        for (const auto& [length, angle] : segments)
            sum += apart(angle, candidate.second) < kParallel_deg ? length : 0.0;
        found.emplace_back(sum, candidate.second);
    }
    std::sort(found.rbegin(), found.rend());
    std::vector<double> angles;
    for (const auto& candidate : found) {
        const double angle = candidate.second;
        if (angles.size() < kDirections && std::ranges::all_of(angles, [angle](double other) {
                return apart(angle, other) > kParallel_deg;
            }))
            angles.push_back(angle);
    }
    return angles;
}

cv::Mat wireRidges(const cv::Mat& grey, int half) {
    cv::Mat bent;
    grey.convertTo(bent, CV_32F);
    cv::GaussianBlur(bent, bent, {0, 0}, kWireWidth);
    const cv::Mat second = (cv::Mat_<float>(1, 5) << 1.0F, 0.0F, -2.0F, 0.0F, 1.0F);
    cv::filter2D(bent, bent, CV_32F, second, {-1, -1}, 0.0, cv::BORDER_REPLICATE);
    cv::Mat best = cv::Mat::zeros(bent.size(), CV_32F);
    cv::Mat sum;
    const auto reach = static_cast<int>(std::ceil(kLeans.back() * half));
    for (const double lean : kLeans) {
        sum = cv::Mat::zeros(bent.size(), CV_32F);
        for (int dy = -half; dy <= half; ++dy) {
            const auto dx = static_cast<int>(std::lround(lean * dy));
            const int from = std::max(0, -dy);
            const int to = std::min(bent.rows, bent.rows - dy);
            if (to <= from || bent.cols <= 2 * reach)
                continue;
            const cv::Range columns(reach, bent.cols - reach);
            sum(cv::Range(from, to), columns) +=
                bent(cv::Range(from + dy, to + dy), cv::Range(reach + dx, bent.cols - reach + dx));
        }
        best = cv::max(best, cv::abs(sum));
    }
    best *= 1.0 / (2 * half + 1);
    return best;
}

} // namespace wirenote::vision
