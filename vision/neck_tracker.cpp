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
constexpr double kHead_mm = 120.0;
constexpr double kWideHalf_mm = 100.0;
constexpr double kWidePixelsPer_mm = 0.8;
constexpr int kStretches = 16;  // of the neck, with …
constexpr int kPointsEach = 14; // … so many points: where wires lie close there would be most
constexpr double kPointsApart = 6.0; // pixels
constexpr double kThereAndBack = 1.0;
constexpr double kAgrees = 2.0;
constexpr int kLevels = 2; // of a pyramid, above the strip itself
constexpr int kFewest = 24;
constexpr float kLeastReach = 0.4F; // of the strip's length, by the points that agree

vision::Strip stripOf(const NeckPlane& plane) {
    return {-kBefore_mm, kTo * plane.scale_mm(), kHalf_mm, kPixelsPer_mm};
}

cv::Size window() {
    return {15, 15};
}

std::vector<cv::Mat> pyramidOf(const cv::Mat& grey) {
    std::vector<cv::Mat> pyramid;
    cv::buildOpticalFlowPyramid(grey, pyramid, window(), kLevels);
    return pyramid;
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
    std::vector<cv::Mat> reference; // a pyramid
    vision::Strip wide;             // with head and body
    cv::Mat wide_reference;
    std::vector<cv::Point2f> points; // of the reference
    Homography last{};

    // Where points of the reference are in a strip, as far as they are found again both ways.
    void match(const cv::Mat& now, std::vector<cv::Point2f>& from, std::vector<cv::Point2f>& to) {
        const std::vector<cv::Mat> seen = pyramidOf(now);
        const cv::TermCriteria enough(cv::TermCriteria::COUNT | cv::TermCriteria::EPS, 12, 0.03);
        std::vector<cv::Point2f> there;
        std::vector<cv::Point2f> back;
        std::vector<unsigned char> found;
        std::vector<unsigned char> returned;
        std::vector<float> error;
        cv::calcOpticalFlowPyrLK(
            reference, seen, points, there, found, error, window(), kLevels, enough);
        cv::calcOpticalFlowPyrLK(
            seen, reference, there, back, returned, error, window(), kLevels, enough);
        for (std::size_t i = 0; i < points.size(); ++i)
            if (found[i] && returned[i] && cv::norm(back[i] - points[i]) < kThereAndBack) {
                from.push_back(points[i]);
                to.push_back(there[i]);
            }
    }

    // Where the neck may be after a cut: as if the picture had been turned, made larger or smaller,
    // and shifted, by what agrees best over the strip with head and body (phase correlation, Kuglin
    // and Hines 1975, for each of some turns and sizes).
    Homography afterCut(const PictureView& picture) const {
        cv::Mat window;
        cv::createHanningWindow(window, wide_reference.size(), CV_32F);
        const cv::Matx33d map = vision::stripMap(wide);
        const cv::Point2f centre(0.5F * static_cast<float>(wide.width()),
                                 0.5F * static_cast<float>(wide.height()));
        Homography best = last;
        double most = 0.0;
        for (const double turn_deg : {0.0, -4.0, 4.0, -8.0, 8.0, -12.0, 12.0})
            for (const double size : {1.0, 0.92, 1.09, 0.84, 1.19, 0.77, 1.3}) {
                const cv::Mat turn = cv::getRotationMatrix2D(centre, turn_deg, size);
                cv::Matx33d turned = cv::Matx33d::eye();
                for (int row = 0; row < 2; ++row)
                    for (int column = 0; column < 3; ++column)
                        turned(row, column) = turn.at<double>(row, column);
                const cv::Matx33d guess = vision::matrixOf(last) * map.inv() * turned * map;
                cv::Mat now;
                vision::greyStrip(picture, wide, vision::homographyOf(guess))
                    .convertTo(now, CV_32F);
                double agrees = 0.0;
                const cv::Point2d by = cv::phaseCorrelate(wide_reference, now, window, &agrees);
                if (agrees <= most)
                    continue;
                most = agrees;
                const cv::Matx33d shift(1.0, 0.0, by.x, 0.0, 1.0, by.y, 0.0, 0.0, 1.0);
                best = vision::homographyOf(guess * map.inv() * shift * map);
            }
        return best;
    }

    // How the strip has moved from the reference; empty where too little of it agrees.
    cv::Mat movedIn(const cv::Mat& now) {
        std::vector<cv::Point2f> from;
        std::vector<cv::Point2f> to;
        match(now, from, to);
        if (static_cast<int>(from.size()) < kFewest)
            return {};
        std::vector<unsigned char> agree;
        cv::Mat moved = cv::findHomography(from, to, cv::RANSAC, kAgrees, agree);
        float least = 1e9F;
        float most = -1e9F;
        int count = 0;
        for (std::size_t i = 0; i < from.size(); ++i)
            if (!moved.empty() && agree[i]) {
                ++count;
                least = std::min(least, from[i].x);
                most = std::max(most, from[i].x);
            }
        const bool enough =
            count >= kFewest && most - least >= kLeastReach * static_cast<float>(strip.width());
        return enough ? moved : cv::Mat();
    }
};

NeckTracker::NeckTracker(const NeckPlane& plane, const PictureView& picture, const Homography& neck)
    : m(std::make_unique<State>()) {
    m->strip = stripOf(plane);
    m->last = neck;
    const cv::Mat reference = vision::greyStrip(picture, m->strip, neck);
    m->reference = pyramidOf(reference);
    m->wide = {-kHead_mm, plane.scale_mm(), kWideHalf_mm, kWidePixelsPer_mm};
    vision::greyStrip(picture, m->wide, neck).convertTo(m->wide_reference, CV_32F);
    constexpr double kQuality = 0.02;
    const cv::Mat board = boardMask(plane, m->strip);
    const int width = m->strip.width() / kStretches;
    for (int k = 0; k < kStretches; ++k) {
        cv::Mat mask = cv::Mat::zeros(board.size(), CV_8UC1);
        const cv::Range columns(k * width, (k + 1) * width);
        board(cv::Range::all(), columns).copyTo(mask(cv::Range::all(), columns));
        std::vector<cv::Point2f> points;
        cv::goodFeaturesToTrack(reference, points, kPointsEach, kQuality, kPointsApart, mask);
        m->points.insert(m->points.end(), points.begin(), points.end());
    }
}

NeckTracker::~NeckTracker() = default;
NeckTracker::NeckTracker(NeckTracker&&) noexcept = default;
NeckTracker& NeckTracker::operator=(NeckTracker&&) noexcept = default;

std::optional<Homography> NeckTracker::follow(const PictureView& picture) {
    if (static_cast<int>(m->points.size()) < kFewest)
        return std::nullopt;
    Homography from = m->last;
    cv::Mat moved = m->movedIn(vision::greyStrip(picture, m->strip, from));
    if (moved.empty()) {
        from = m->afterCut(picture);
        moved = m->movedIn(vision::greyStrip(picture, m->strip, from));
    }
    if (moved.empty())
        return std::nullopt;
    // A point of the plane lies at stripMap · p of the reference, and there `moved` further.
    const cv::Matx33d strip = vision::stripMap(m->strip);
    const cv::Matx33d further(moved.ptr<double>());
    m->last = vision::homographyOf(vision::matrixOf(from) * strip.inv() * further * strip);
    return m->last;
}

} // namespace wirenote
