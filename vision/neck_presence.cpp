#include "vision/neck_presence.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <opencv2/imgproc.hpp>
#include <vector>

namespace wirenote {
namespace {

constexpr int kWidth = 720;    // pictures are looked at in this size
constexpr double kLong = 0.09; // of the width: an edge along the neck
constexpr double kParallel_deg = 4.0;
constexpr double kAcross_deg = 14.0; // a fret wire may lean by this much, in perspective
constexpr double kThinnest = 0.02;   // of the width: a neck's band across
constexpr double kThickest = 0.14;

struct Segment {
    cv::Point2d middle;
    double length = 0.0;
    double angle_deg = 0.0; // −90..90
};

double between(double a_deg, double b_deg) {
    return std::abs(std::remainder(a_deg - b_deg, 180.0));
}

std::vector<Segment> segmentsOf(const PictureView& picture, double& width) {
    const cv::Mat rgb(
        picture.height, picture.width, CV_8UC3, const_cast<std::uint8_t*>(picture.rgb.data()));
    cv::Mat grey;
    cv::cvtColor(rgb, grey, cv::COLOR_RGB2GRAY);
    const double scale = static_cast<double>(kWidth) / std::max(picture.width, picture.height);
    if (scale < 1.0)
        cv::resize(grey, grey, {}, scale, scale, cv::INTER_AREA);
    width = std::max(grey.cols, grey.rows);
    std::vector<cv::Vec4f> lines;
    cv::createLineSegmentDetector(cv::LSD_REFINE_STD)->detect(grey, lines);
    std::vector<Segment> segments;
    for (const cv::Vec4f& l : lines) {
        const double dx = l[2] - l[0];
        const double dy = l[3] - l[1];
        Segment s;
        s.middle = {0.5 * (l[0] + l[2]), 0.5 * (l[1] + l[3])};
        s.length = std::hypot(dx, dy);
        s.angle_deg = std::remainder(std::atan2(dy, dx) * 180.0 / std::numbers::pi, 180.0);
        segments.push_back(s);
    }
    return segments;
}

// The direction in which most length of long edges lies.
double mainAngle(const std::vector<Segment>& segments, double width) {
    double best = 0.0;
    double most = -1.0;
    for (const Segment& candidate : segments) {
        if (candidate.length < kLong * width)
            continue;
        double sum = 0.0;
        for (const Segment& s : segments)
            if (s.length >= kLong * width &&
                between(s.angle_deg, candidate.angle_deg) < kParallel_deg)
                sum += s.length;
        if (sum > most) {
            most = sum;
            best = candidate.angle_deg;
        }
    }
    return best;
}

} // namespace

NeckPresence neckPresence(const PictureView& picture) {
    NeckPresence found;
    if (picture.width < 64 || picture.height < 64 ||
        picture.rgb.size() < static_cast<std::size_t>(3) * picture.width * picture.height)
        return found;
    double width = 1.0;
    const auto segments = segmentsOf(picture, width);
    found.angle_deg = mainAngle(segments, width);
    const double a = found.angle_deg * std::numbers::pi / 180.0;
    const auto along = [a](const cv::Point2d& p) { return p.x * std::cos(a) + p.y * std::sin(a); };
    const auto across = [a](const cv::Point2d& p) { return p.y * std::cos(a) - p.x * std::sin(a); };
    std::vector<Segment> sides;
    std::vector<Segment> wires;
    for (const Segment& s : segments) {
        if (s.length >= kLong * width && between(s.angle_deg, found.angle_deg) < kParallel_deg)
            sides.push_back(s);
        if (between(s.angle_deg, found.angle_deg + 90.0) < kAcross_deg &&
            s.length > 0.4 * kThinnest * width && s.length < 1.3 * kThickest * width)
            wires.push_back(s);
    }
    // The band between two sides that is crossed by most wires at different places.
    for (const Segment& upper : sides)
        for (const Segment& lower : sides) {
            const double from = across(upper.middle);
            const double to = across(lower.middle);
            if (to - from < kThinnest * width || to - from > kThickest * width)
                continue;
            std::vector<double> places;
            for (const Segment& w : wires)
                if (across(w.middle) > from && across(w.middle) < to &&
                    w.length > 0.35 * (to - from))
                    places.push_back(along(w.middle));
            std::sort(places.begin(), places.end());
            std::vector<double> apart; // both edges of one wire are one place
            for (const double p : places)
                if (apart.empty() || p - apart.back() > 0.008 * width)
                    apart.push_back(p);
            if (static_cast<int>(apart.size()) > found.frets) {
                found.frets = static_cast<int>(apart.size());
                found.share = (apart.back() - apart.front()) / width;
            }
        }
    return found;
}

} // namespace wirenote
