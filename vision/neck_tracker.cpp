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
constexpr std::size_t kGuesses = 8; // of where a neck is after a cut
constexpr double kLeastLike = 0.68; // … and looks as it did
constexpr double kOfUsual = 0.6;    // of the points that agreed before, where nothing has happened
constexpr double kCovered = 0.4;    // … or something has come before the neck
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

// Head, neck and what of the body lies along the strings.
cv::Mat instrumentMask(const NeckPlane& plane, const vision::Strip& strip) {
    constexpr double kBeside_mm = 8.0;
    cv::Mat mask = cv::Mat::zeros(strip.height(), strip.width(), CV_8UC1);
    for (int x = 0; x < mask.cols; ++x) {
        const double half_mm = plane.halfWidth_mm(std::max(0.0, strip.alongAt(x))) + kBeside_mm;
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
    cv::Mat instrument;              // of the wide strip: not what lies behind it
    std::vector<cv::Point2f> points; // of the reference
    Homography last{};
    double nut_mm = 0.0;   // its width
    int in_vain = 0;       // looks around, one after the other
    double agreeing = 0.0; // share of the points, at last …
    double usually = 0.5;  // … and over the last looks

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
    // and shifted, by what looks most alike over the strip with head and body (phase correlation,
    // Kuglin and Hines 1975, for each of some turns and sizes). The likeliest first. Several, since
    // a neck made larger and shifted by some frets has its wires where others were.
    std::vector<Homography> afterCut(const PictureView& picture) const {
        cv::Mat window;
        cv::createHanningWindow(window, wide_reference.size(), CV_32F);
        const cv::Matx33d map = vision::stripMap(wide);
        const cv::Point2f centre(0.5F * static_cast<float>(wide.width()),
                                 0.5F * static_cast<float>(wide.height()));
        struct Guess {
            double like = 0.0;
            Homography neck{};
        };
        std::vector<Guess> guesses;
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
                const cv::Point2d by = cv::phaseCorrelate(wide_reference, now, window);
                const cv::Matx33d shift(1.0, 0.0, by.x, 0.0, 1.0, by.y, 0.0, 0.0, 1.0);
                const Homography there = vision::homographyOf(guess * map.inv() * shift * map);
                guesses.push_back({likeness(picture, there), there});
            }
        std::ranges::sort(guesses, std::ranges::greater{}, &Guess::like);
        guesses.resize(std::min(guesses.size(), kGuesses));
        std::vector<Homography> necks;
        for (const Guess& guess : guesses)
            necks.push_back(guess.neck);
        return necks;
    }

    // Whether it went further than a neck does from one look to the next.
    bool jumped(const Homography& to) const {
        constexpr double kFar = 0.4; // of the nut's width
        const auto corner = [this](const Homography& neck, double along_mm, double across_mm) {
            return project(neck, {along_mm, across_mm});
        };
        const double half_mm = 0.5 * nut_mm;
        const PicturePoint low = corner(last, 0.0, -half_mm);
        const PicturePoint high = corner(last, 0.0, half_mm);
        const double far = kFar * std::hypot(high.x - low.x, high.y - low.y);
        for (const double along_mm : {0.0, strip.to_mm})
            for (const double across_mm : {-half_mm, half_mm}) {
                const PicturePoint a = corner(last, along_mm, across_mm);
                const PicturePoint b = corner(to, along_mm, across_mm);
                if (std::hypot(a.x - b.x, a.y - b.y) > far)
                    return true;
            }
        return false;
    }

    // Looking around takes as long as a dozen looks: not again and again while a neck is hidden.
    bool looksAround() {
        constexpr int kAtOnce = 3;
        constexpr int kThenEvery = 5;
        ++in_vain;
        return in_vain <= kAtOnce || in_vain % kThenEvery == 0;
    }

    // Where it is after a cut; nothing where no place looks more like it than that.
    std::optional<Homography> mostAlike(const PictureView& picture, double than) {
        std::optional<Homography> best;
        for (const Homography& guess : afterCut(picture))
            if (const auto there = refined(picture, guess))
                if (const double like = likeness(picture, *there); like > than) {
                    than = like;
                    best = there;
                }
        return best;
    }

    // How much neck, head and body look as they did when they lie so: the correlation of grey over
    // what is in the picture, -1 to 1.
    double likeness(const PictureView& picture, const Homography& neck) const {
        cv::Mat now;
        vision::greyStrip(picture, wide, neck).convertTo(now, CV_32F);
        const cv::Mat all(picture.height, picture.width, CV_8UC1, cv::Scalar(255));
        const cv::Mat inside = vision::straightened(all, wide, neck) & instrument;
        constexpr double kLeastSeen = 0.3; // of the strip
        if (cv::countNonZero(inside) < kLeastSeen * cv::countNonZero(instrument))
            return -1.0;
        cv::Scalar mean_now;
        cv::Scalar mean_then;
        cv::Scalar spread_now;
        cv::Scalar spread_then;
        cv::meanStdDev(now, mean_now, spread_now, inside);
        cv::meanStdDev(wide_reference, mean_then, spread_then, inside);
        const cv::Mat product = (now - mean_now[0]).mul(wide_reference - mean_then[0]);
        return cv::mean(product, inside)[0] / (spread_now[0] * spread_then[0] + 1e-9);
    }

    // The neck in a picture, from where it may be; nothing where the strip does not agree.
    std::optional<Homography> refined(const PictureView& picture, const Homography& from) {
        const cv::Mat moved = movedIn(vision::greyStrip(picture, strip, from));
        if (moved.empty())
            return std::nullopt;
        // A point of the plane lies at stripMap · p of the reference, and there `moved` further.
        const cv::Matx33d map = vision::stripMap(strip);
        const cv::Matx33d further(moved.ptr<double>());
        return vision::homographyOf(vision::matrixOf(from) * map.inv() * further * map);
    }

    // How the strip has moved from the reference; empty where too little of it agrees.
    cv::Mat movedIn(const cv::Mat& now) {
        std::vector<cv::Point2f> from;
        std::vector<cv::Point2f> to;
        agreeing = 0.0;
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
        agreeing = static_cast<double>(count) / static_cast<double>(points.size());
        const bool enough =
            count >= kFewest && most - least >= kLeastReach * static_cast<float>(strip.width());
        return enough ? moved : cv::Mat();
    }
};

NeckTracker::NeckTracker(const NeckPlane& plane, const PictureView& picture, const Homography& neck)
    : m(std::make_unique<State>()) {
    m->strip = stripOf(plane);
    m->last = neck;
    m->nut_mm = 2.0 * plane.halfWidth_mm(0.0);
    const cv::Mat reference = vision::greyStrip(picture, m->strip, neck);
    m->reference = pyramidOf(reference);
    m->wide = {-kHead_mm, plane.scale_mm(), kWideHalf_mm, kWidePixelsPer_mm};
    vision::greyStrip(picture, m->wide, neck).convertTo(m->wide_reference, CV_32F);
    m->instrument = instrumentMask(plane, m->wide);
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
    std::optional<Homography> found = m->refined(picture, m->last);
    const bool less = m->agreeing < kOfUsual * m->usually;
    if (!found || less || m->jumped(*found)) {
        // A cut, or something before the neck.
        const bool covered = found && !m->jumped(*found) && m->agreeing > kCovered * m->usually;
        const double most = found ? std::max(kLeastLike, m->likeness(picture, *found)) : kLeastLike;
        if (less && !covered)
            found.reset();
        const std::optional<Homography> elsewhere =
            m->looksAround() ? m->mostAlike(picture, most) : std::nullopt;
        if (elsewhere) {
            found = elsewhere;
            m->in_vain = 0;
        }
    } else {
        m->in_vain = 0;
        m->usually = 0.9 * m->usually + 0.1 * m->agreeing;
    }
    if (found)
        m->last = *found;
    return found;
}

} // namespace wirenote
