#include "vision/neck_tracker.h"

#include "vision/neck_picture.h"

#include <algorithm>
#include <cmath>
#include <opencv2/calib3d.hpp>
#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>

namespace wirenote {
namespace {

constexpr double kPixelsPer_mm = 1.6;
constexpr double kBefore_mm = 30.0; // of the nut: the head
constexpr double kTo = 0.68;        // of the scale
constexpr double kHalf_mm = 70.0;
constexpr int kStretches = 16;  // of the neck, with …
constexpr int kPointsEach = 25; // … so many points: where wires lie close there would be most
constexpr double kPointsApart = 6.0; // pixels
constexpr double kThereAndBack = 1.0;
constexpr double kAgrees = 2.0;
constexpr int kFewest = 24;
constexpr double kLeastReach = 0.4; // of the strip's length, by the points that agree

vision::Strip stripOf(const NeckPlane& plane) {
    return {-kBefore_mm, kTo * plane.scale_mm(), kHalf_mm, kPixelsPer_mm};
}

cv::Mat greyStrip(const PictureView& picture, const vision::Strip& strip, const Homography& neck) {
    cv::Mat grey;
    cv::cvtColor(
        vision::straightened(vision::matOf(picture), strip, neck), grey, cv::COLOR_RGB2GRAY);
    return grey;
}

// The fingerboard itself: what lies behind it moves otherwise.
cv::Mat boardMask(const NeckPlane& plane, const vision::Strip& strip) {
    cv::Mat mask = cv::Mat::zeros(strip.height(), strip.width(), CV_8UC1);
    for (int x = 0; x < mask.cols; ++x) {
        const double half_mm = plane.halfWidth_mm(strip.alongAt(x));
        mask(cv::Range(static_cast<int>(strip.yOf(-half_mm)), static_cast<int>(strip.yOf(half_mm))),
             cv::Range(x, x + 1))
            .setTo(255);
    }
    return mask;
}

} // namespace

struct NeckTracker::State {
    vision::Strip strip;
    cv::Mat reference;
    std::vector<cv::Point2f> points; // of the reference
    Homography last{};

    // Where points of the reference are in a strip, as far as they are found again both ways.
    void match(const cv::Mat& now, std::vector<cv::Point2f>& from, std::vector<cv::Point2f>& to) {
        std::vector<cv::Point2f> there;
        std::vector<cv::Point2f> back;
        std::vector<unsigned char> found;
        std::vector<unsigned char> returned;
        std::vector<float> error;
        cv::calcOpticalFlowPyrLK(reference, now, points, there, found, error);
        cv::calcOpticalFlowPyrLK(now, reference, there, back, returned, error);
        for (std::size_t i = 0; i < points.size(); ++i)
            if (found[i] && returned[i] && cv::norm(back[i] - points[i]) < kThereAndBack) {
                from.push_back(points[i]);
                to.push_back(there[i]);
            }
    }
};

NeckTracker::NeckTracker(const NeckPlane& plane, const PictureView& picture, const Homography& neck)
    : m(std::make_unique<State>()) {
    m->strip = stripOf(plane);
    m->last = neck;
    m->reference = greyStrip(picture, m->strip, neck);
    constexpr double kQuality = 0.02;
    const cv::Mat board = boardMask(plane, m->strip);
    const int width = m->strip.width() / kStretches;
    for (int k = 0; k < kStretches; ++k) {
        cv::Mat mask = cv::Mat::zeros(board.size(), CV_8UC1);
        const cv::Range columns(k * width, (k + 1) * width);
        board(cv::Range::all(), columns).copyTo(mask(cv::Range::all(), columns));
        std::vector<cv::Point2f> points;
        cv::goodFeaturesToTrack(m->reference, points, kPointsEach, kQuality, kPointsApart, mask);
        m->points.insert(m->points.end(), points.begin(), points.end());
    }
}

NeckTracker::~NeckTracker() = default;
NeckTracker::NeckTracker(NeckTracker&&) noexcept = default;
NeckTracker& NeckTracker::operator=(NeckTracker&&) noexcept = default;

std::optional<Homography> NeckTracker::follow(const PictureView& picture) {
    if (static_cast<int>(m->points.size()) < kFewest)
        return std::nullopt;
    std::vector<cv::Point2f> from;
    std::vector<cv::Point2f> to;
    m->match(greyStrip(picture, m->strip, m->last), from, to);
    if (static_cast<int>(from.size()) < kFewest)
        return std::nullopt;
    std::vector<unsigned char> agree;
    const cv::Mat moved = cv::findHomography(from, to, cv::RANSAC, kAgrees, agree);
    if (moved.empty())
        return std::nullopt;
    float least = 1e9F;
    float most = -1e9F;
    int count = 0;
    for (std::size_t i = 0; i < from.size(); ++i)
        if (agree[i]) {
            ++count;
            least = std::min(least, from[i].x);
            most = std::max(most, from[i].x);
        }
    if (count < kFewest || most - least < kLeastReach * m->strip.width())
        return std::nullopt;
    // A point of the plane lies at stripMap · p of the reference, and there `moved` further.
    const cv::Matx33d strip = vision::stripMap(m->strip);
    const cv::Matx33d further(moved.ptr<double>());
    m->last = vision::homographyOf(vision::matrixOf(m->last) * strip.inv() * further * strip);
    return m->last;
}

} // namespace wirenote
