#include "vision/neck_presence.h"

#include "base/median.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <opencv2/imgproc.hpp>
#include <vector>

namespace wirenote {
namespace {

constexpr int kWidth = 1280;   // pictures are looked at in this size at the most
constexpr double kLong = 0.02; // of the width: a piece of an edge along the neck
constexpr double kParallel_deg = 4.0;
constexpr double kThinnest = 0.02; // of the width: a neck's band across
constexpr double kThickest = 0.14;
constexpr std::size_t kDirections = 3;
constexpr std::size_t kEdges = 12; // of one direction, the longest
constexpr double kEdgeApart = 4.0; // pixels
constexpr int kRows = 24;          // across a band, when it is laid straight
constexpr int kLean = 12;          // rows that a wire may lean each way, in perspective
constexpr double kClear = 2.5;     // times the middle of the band: a wire
constexpr std::size_t kFewestWires = 5;
constexpr std::size_t kMostWires = 120;
constexpr int kMostFrets = 26;
constexpr double kTolerance = 0.08; // of a fret
constexpr double kFullness = 0.7;   // of the frets between the first and the last
constexpr double kLeast = 4.0;      // score that a neck has at least

struct Segment {
    cv::Point2d middle;
    double length = 0.0;
    double angle_deg = 0.0; // −90..90
};

double between(double a_deg, double b_deg) {
    return std::abs(std::remainder(a_deg - b_deg, 180.0));
}

cv::Mat greyOf(const PictureView& picture) {
    const cv::Mat rgb(
        picture.height, picture.width, CV_8UC3, const_cast<std::uint8_t*>(picture.rgb.data()));
    cv::Mat grey;
    cv::cvtColor(rgb, grey, cv::COLOR_RGB2GRAY);
    const double scale = static_cast<double>(kWidth) / std::max(picture.width, picture.height);
    if (scale < 1.0)
        cv::resize(grey, grey, {}, scale, scale, cv::INTER_AREA);
    return grey;
}

std::vector<Segment> segmentsOf(const cv::Mat& grey, double shortest) {
    std::vector<cv::Vec4f> lines;
    cv::createLineSegmentDetector(cv::LSD_REFINE_NONE)->detect(grey, lines);
    std::vector<Segment> segments;
    for (const cv::Vec4f& l : lines) {
        const double dx = l[2] - l[0];
        const double dy = l[3] - l[1];
        if (std::hypot(dx, dy) < shortest)
            continue;
        Segment s;
        s.middle = {0.5 * (l[0] + l[2]), 0.5 * (l[1] + l[3])};
        s.length = std::hypot(dx, dy);
        s.angle_deg = std::remainder(std::atan2(dy, dx) * 180.0 / std::numbers::pi, 180.0);
        segments.push_back(s);
    }
    return segments;
}

// The directions in which most length of edges lies, the fullest first, well apart.
std::vector<double> mainAngles(const std::vector<Segment>& segments) {
    std::vector<std::pair<double, double>> found; // length, angle
    for (const Segment& candidate : segments) {
        double sum = 0.0;
        for (const Segment& s : segments)
            if (between(s.angle_deg, candidate.angle_deg) < kParallel_deg)
                sum += s.length;
        found.emplace_back(sum, candidate.angle_deg);
    }
    std::sort(found.rbegin(), found.rend());
    std::vector<double> angles;
    for (const auto& candidate : found) {
        const double angle = candidate.second;
        if (angles.size() < kDirections && std::ranges::all_of(angles, [angle](double other) {
                return between(angle, other) > kParallel_deg;
            }))
            angles.push_back(angle);
    }
    return angles;
}

// Where, across a direction, the longest edges along it lie, in order.
std::vector<double>
edgesAcross(const std::vector<Segment>& segments, double angle_deg, double size) {
    const double a = angle_deg * std::numbers::pi / 180.0;
    std::vector<double> length(static_cast<std::size_t>(4.0 * size / kEdgeApart) + 1, 0.0);
    for (const Segment& s : segments) {
        const double across = s.middle.y * std::cos(a) - s.middle.x * std::sin(a);
        if (between(s.angle_deg, angle_deg) < kParallel_deg)
            length[static_cast<std::size_t>((across + 2.0 * size) / kEdgeApart)] += s.length;
    }
    std::vector<std::size_t> order(length.size());
    for (std::size_t i = 0; i < order.size(); ++i)
        order[i] = i;
    std::ranges::sort(order, [&](std::size_t x, std::size_t y) { return length[x] > length[y]; });
    std::vector<double> edges;
    for (std::size_t i = 0; i < kEdges && length[order[i]] > 0.0; ++i)
        edges.push_back((static_cast<double>(order[i]) + 0.5) * kEdgeApart - 2.0 * size);
    std::ranges::sort(edges);
    return edges;
}

// The band between two edges laid straight, how much it changes along itself.
cv::Mat changeAlong(const cv::Mat& grey, double angle_deg, double from, double to, double& start) {
    const double a = angle_deg * std::numbers::pi / 180.0;
    const cv::Point2d along(std::cos(a), std::sin(a));
    const cv::Point2d across(-std::sin(a), std::cos(a));
    const double corners[] = {
        0.0, grey.cols * along.x, grey.rows * along.y, grey.cols * along.x + grey.rows * along.y};
    start = *std::ranges::min_element(corners);
    const int length = static_cast<int>(*std::ranges::max_element(corners) - start);
    const double step = (to - from) / kRows;
    const cv::Point2d origin = start * along + (from + 0.5 * step) * across;
    const cv::Mat place = (cv::Mat_<double>(2, 3) << along.x,
                           step * across.x,
                           origin.x,
                           along.y,
                           step * across.y,
                           origin.y);
    cv::Mat band;
    cv::warpAffine(grey,
                   band,
                   place,
                   {length, kRows},
                   cv::INTER_LINEAR | cv::WARP_INVERSE_MAP,
                   cv::BORDER_REPLICATE);
    cv::GaussianBlur(band, band, {5, 1}, 0.8);
    cv::Mat change;
    cv::Sobel(band, change, CV_32F, 1, 0, 1);
    return change;
}

// Where lines cross the band, more or less upright: there the change has one sign along the whole
// line, whatever strings cross it.
std::vector<double> wiresIn(const cv::Mat& change, double start) {
    std::vector<float> clear(static_cast<std::size_t>(change.cols), 0.0F);
    for (int lean = -kLean; lean <= kLean; lean += 4)
        for (int x = kLean; x < change.cols - kLean; ++x) {
            float sum = 0.0F;
            for (int row = 0; row < kRows; ++row)
                sum += change.at<float>(row, x + lean * (2 * row - kRows + 1) / (2 * kRows));
            auto& here = clear[static_cast<std::size_t>(x)];
            here = std::max(here, std::abs(sum));
        }
    const float middle = median(std::vector(clear)).value_or(0.0F);
    const float least = static_cast<float>(kClear) * std::max(middle, 2.0F * kRows);
    std::vector<double> places;
    for (std::size_t x = 2; x + 2 < clear.size(); ++x)
        if (clear[x] >= least && clear[x] >= *std::max_element(&clear[x - 2], &clear[x + 3]))
            places.push_back(start + static_cast<double>(x));
    return places;
}

// How well places along a band stand like frets: the wire n lies D·2^(−n/12) from the bridge
// (equal temperament), so two of them, k frets apart, tell where the bridge is.
struct FretFit {
    double bridge = 0.0;
    double reference = 0.0; // distance of one of the wires to the bridge
    int wires = 0;          // different frets that are met
    int span = 0;           // frets from the first to the last of them
    double from = 0.0, to = 0.0;
    double score = 0.0; // wires beyond what chance would meet
};

FretFit fitFor(const std::vector<double>& places, double reference, double bridge) {
    FretFit fit;
    fit.bridge = bridge;
    fit.reference = std::abs(reference);
    std::array<bool, 2 * kMostFrets + 1> met{};
    int near = 0;
    int first = kMostFrets;
    int last = -kMostFrets;
    for (const double place : places) {
        const double left = (bridge - place) / reference;
        if (left < 0.2 || left > 4.0)
            continue;
        ++near;
        const double fret = -12.0 * std::log2(left);
        const int n = static_cast<int>(std::lround(fret));
        if (std::abs(fret - n) > kTolerance || std::abs(n) > kMostFrets)
            continue;
        auto& here = met[static_cast<std::size_t>(n + kMostFrets)];
        fit.wires += here ? 0 : 1;
        here = true;
        fit.from = n < first ? place : fit.from;
        fit.to = n > last ? place : fit.to;
        first = std::min(first, n);
        last = std::max(last, n);
    }
    fit.span = last - first + 1;
    fit.score = fit.wires - 2.0 - 2.0 * kTolerance * (near - 2);
    return fit;
}

// The best fit in which these two places are so many frets apart, the neck in either direction.
FretFit fitThrough(const std::vector<double>& places, double low, double high, int apart) {
    FretFit best;
    for (const bool rising : {true, false}) {
        const double far = rising ? low : high;
        const double step = rising ? high - low : low - high;
        const double reference = step / (1.0 - std::exp2(-apart / 12.0));
        const FretFit fit = fitFor(places, reference, far + reference);
        if (fit.score > best.score && fit.wires >= kFullness * fit.span && fit.span <= kMostFrets)
            best = fit;
    }
    return best;
}

FretFit fitFrets(const std::vector<double>& places) {
    FretFit best;
    if (places.size() < kFewestWires || places.size() > kMostWires)
        return best;
    for (std::size_t i = 0; i < places.size(); ++i)
        for (std::size_t j = i + 1; j < std::min(places.size(), i + 7); ++j)
            for (int apart = 1; apart <= 5; ++apart)
                if (const FretFit fit = fitThrough(places, places[i], places[j], apart);
                    fit.score > best.score)
                    best = fit;
    return best;
}

} // namespace

NeckPresence neckPresence(const PictureView& picture) {
    NeckPresence found;
    if (picture.width < 64 || picture.height < 64 ||
        picture.rgb.size() < static_cast<std::size_t>(3) * picture.width * picture.height)
        return found;
    const cv::Mat grey = greyOf(picture);
    const double width = std::max(grey.cols, grey.rows);
    double best = kLeast;
    const auto segments = segmentsOf(grey, kLong * width);
    for (const double angle_deg : mainAngles(segments)) {
        const auto edges = edgesAcross(segments, angle_deg, width);
        for (const double from : edges)
            for (const double to : edges) {
                if (to - from < kThinnest * width || to - from > kThickest * width)
                    continue;
                double start = 0.0;
                const cv::Mat change = changeAlong(grey, angle_deg, from, to, start);
                const FretFit fit = fitFrets(wiresIn(change, start));
                const double share = std::abs(fit.to - fit.from) / width;
                if (fit.score * std::sqrt(share) <= best)
                    continue;
                best = fit.score * std::sqrt(share);
                found = {fit.wires, fit.span, share, angle_deg};
            }
    }
    return found;
}

} // namespace wirenote
