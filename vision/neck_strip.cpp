#include "vision/neck_strip.h"

#include "base/median.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>

namespace wirenote::vision {
namespace {

constexpr double kPixelsPer_mm = 2.0;
constexpr double kBefore = 0.17; // of the scale, before the nut: it may be elsewhere
constexpr double kTo = 0.79;
constexpr double kHalf_mm = 45.0;
constexpr int kFirst = -5;
constexpr int kLast = 27;
constexpr double kInner = 0.9;     // of the neck's half width: short of its edges
constexpr double kReach_mm = 3.0;  // that a wire may lie beside its place
constexpr double kOfTypical = 0.4; // clearness of what counts as a wire
constexpr double kLeastClear = 1.5;
constexpr std::size_t kFewestLines = 12;

cv::Mat laidStraight(const cv::Mat& grey, const Strip& strip, const Homography& neck, int how) {
    cv::Mat out;
    cv::warpPerspective(
        grey, out, stripMap(strip) * matrixOf(neck).inv(), {strip.width(), strip.height()}, how);
    return out;
}

using Row = cv::Vec<double, 9>;

// Points that lie on a line, a·x + b·y + c = 0.
struct OnLine {
    std::vector<PlanePoint> points;
    cv::Vec3d line;
};

// The map that takes the wires to where they are found, and the edges on to theirs. A wire tells
// where it is along the neck, not which point of it is which; that the edges say. Direct linear
// transformation (Hartley & Zisserman, "Multiple View Geometry", 2nd ed., 4.1), weighted anew some
// times (Geman & McClure) so that lines that are no wires do not pull.
std::optional<cv::Matx33d> fitted(const std::vector<PlanePoint>& ideal,
                                  const std::vector<PicturePoint>& found,
                                  const std::array<OnLine, 2>& edges) {
    constexpr int kRounds = 5;
    constexpr double kAcross = 0.02;     // weight of where a point of a wire is across
    constexpr double kOff_pixels = 1.0;  // that a wire may be and counts a half
    constexpr double kScale = 1.0 / 500; // pixels to about one
    cv::Matx33d map = cv::Matx33d::eye();
    double x0 = 0.0;
    double y0 = 0.0;
    for (const PlanePoint& point : ideal) {
        x0 += point.along_mm / static_cast<double>(ideal.size());
        y0 += point.across_mm / static_cast<double>(ideal.size());
    }
    const cv::Matx33d normal(kScale, 0.0, -kScale * x0, 0.0, kScale, -kScale * y0, 0.0, 0.0, 1.0);
    for (int round = 0; round < kRounds; ++round) {
        cv::Matx<double, 9, 9> squares = cv::Matx<double, 9, 9>::zeros();
        const auto add = [&squares](double weight, const Row& row) {
            squares += weight * weight * row * row.t();
        };
        for (const OnLine& edge : edges) {
            const cv::Vec3d line = normal.inv().t() * edge.line;
            for (const PlanePoint& point : edge.points) {
                const cv::Vec3d p = normal * cv::Vec3d(point.along_mm, point.across_mm, 1.0);
                Row row;
                for (int k = 0; k < 9; ++k)
                    row[k] = kScale * line[k / 3] * p[k % 3];
                add(1.0, row);
            }
        }
        for (std::size_t i = 0; i < ideal.size(); ++i) {
            const cv::Vec3d from(ideal[i].along_mm, ideal[i].across_mm, 1.0);
            const cv::Vec3d there = map * from;
            const double off = there[0] / there[2] - found[i].x;
            const double weight =
                round == 0 ? 1.0 : 1.0 / (1.0 + off * off / (kOff_pixels * kOff_pixels));
            const cv::Vec3d p = normal * from;
            const double u = kScale * (found[i].x - x0);
            const double v = kScale * (found[i].y - y0);
            const Row along(-p[0], -p[1], -1.0, 0.0, 0.0, 0.0, u * p[0], u * p[1], u);
            const Row across(0.0, 0.0, 0.0, -p[0], -p[1], -1.0, v * p[0], v * p[1], v);
            add(weight, along);
            add(kAcross, across);
        }
        cv::Mat values;
        cv::Mat vectors;
        if (!cv::eigen(cv::Mat(squares), values, vectors))
            return std::nullopt;
        const cv::Matx33d least(vectors.ptr<double>(8)); // of the least eigenvalue
        map = normal.inv() * least * normal;
        if (!(std::abs(map(2, 2)) > 1e-12)) // nor a number
            return std::nullopt;
        map = map * (1.0 / map(2, 2));
    }
    return map;
}

double typicalClear(const std::map<int, WireLook>& looks) {
    std::vector<double> clear;
    for (const auto& [n, look] : looks)
        if (n >= 1 && n <= 14)
            clear.push_back(look.clear);
    return median(std::move(clear)).value_or(0.0);
}

} // namespace

NeckStrip::NeckStrip(const NeckPlane& plane, const cv::Mat& grey, const Homography& neck)
    : m_plane(plane), m_neck(neck), m_strip{-kBefore * plane.scale_mm(),
                                            kTo * plane.scale_mm(),
                                            kHalf_mm,
                                            kPixelsPer_mm} {
    m_grey = laidStraight(grey, m_strip, neck, cv::INTER_LINEAR);
    m_inside = laidStraight(
        cv::Mat(grey.size(), CV_8UC1, cv::Scalar(255)), m_strip, neck, cv::INTER_NEAREST);
    m_grey.convertTo(m_bent, CV_32F);
    cv::GaussianBlur(m_bent, m_soft, {0, 0}, 1.1 * kPixelsPer_mm);
    cv::GaussianBlur(m_bent, m_bent, {0, 0}, 0.8 * kPixelsPer_mm);
    const cv::Mat second = (cv::Mat_<float>(1, 7) << 1.0F, 0.0F, 0.0F, -2.0F, 0.0F, 0.0F, 1.0F);
    cv::filter2D(m_bent, m_bent, CV_32F, second, {-1, -1}, 0.0, cv::BORDER_REPLICATE);
}

bool NeckStrip::shows(double along_mm, double half_mm) const {
    constexpr int kMargin = 16;
    const auto x = static_cast<int>(m_strip.xOf(along_mm));
    if (x < kMargin || x >= m_strip.width() - kMargin)
        return false;
    for (const double across_mm : {-half_mm, 0.0, half_mm})
        for (const int dx : {-kMargin / 2, 0, kMargin / 2})
            if (m_inside.at<unsigned char>(static_cast<int>(m_strip.yOf(across_mm)), x + dx) == 0)
                return false;
    return true;
}

NeckStrip::Seen
NeckStrip::lineNear(double along_mm, double from_mm, double to_mm, double reach_mm) const {
    const auto middle = static_cast<int>(std::lround(m_strip.xOf(along_mm)));
    const auto reach = static_cast<int>(reach_mm * kPixelsPer_mm) + 1;
    const int low = std::max(0, middle - reach);
    const int high = std::min(m_strip.width(), middle + reach + 1);
    const int top = std::max(0, static_cast<int>(m_strip.yOf(from_mm)));
    const int bottom = std::min(m_strip.height(), static_cast<int>(m_strip.yOf(to_mm)) + 1);
    if (high - low < 3 || bottom - top < 2)
        return {};
    cv::Mat mean;
    cv::reduce(
        m_bent(cv::Range(top, bottom), cv::Range(low, high)), mean, 0, cv::REDUCE_AVG, CV_32F);
    // A wire shines; the dark line beside it is its shadow.
    constexpr float kDark = 0.5F;
    const auto value = [&mean](int x) {
        const float bent = mean.at<float>(0, x);
        return bent < 0.0F ? -bent : kDark * bent;
    };
    int best = 1;
    for (int x = 1; x + 1 < mean.cols; ++x)
        if (value(x) > value(best))
            best = x;
    const double before = value(best - 1);
    const double after = value(best + 1);
    const double bend = before - 2.0 * value(best) + after;
    const double beside = bend < 0.0 ? 0.5 * (before - after) / bend : 0.0;
    return {low + best + std::clamp(beside, -0.5, 0.5), value(best)};
}

// The middle of what sixths of the width show: a finger over some of them changes nothing, and a
// thing as wide as a string shows in one only.
double NeckStrip::clearAt(double along_mm) const {
    constexpr int kParts = 6;
    constexpr double kNear_mm = 1.2;
    const double half_mm = kInner * m_plane.halfWidth_mm(std::max(0.0, along_mm));
    if (!shows(along_mm, half_mm))
        return -1.0;
    std::vector<double> parts;
    for (int part = 0; part < kParts; ++part) {
        const double from_mm = -half_mm + 2.0 * half_mm * part / kParts;
        parts.push_back(
            lineNear(along_mm, from_mm, from_mm + 2.0 * half_mm / kParts, kNear_mm).clear);
    }
    return median(std::move(parts)).value_or(0.0);
}

double NeckStrip::inkAt(double along_mm) const {
    constexpr int kInk = 10; // pixels to either side
    constexpr int kWood = 16;
    const double half_mm = kInner * m_plane.halfWidth_mm(std::max(0.0, along_mm));
    const auto x = static_cast<int>(std::lround(m_strip.xOf(along_mm)));
    const auto top = static_cast<int>(m_strip.yOf(-half_mm));
    const auto bottom = static_cast<int>(m_strip.yOf(half_mm));
    std::vector<double> profile;
    for (int dx = -kWood; dx <= kWood; ++dx) {
        std::vector<double> column;
        for (int y = top; y < bottom; ++y)
            column.push_back(m_grey.at<unsigned char>(y, std::clamp(x + dx, 0, m_grey.cols - 1)));
        profile.push_back(median(std::move(column)).value_or(0.0));
    }
    std::vector<double> wood(profile.begin(), profile.begin() + (kWood - kInk));
    wood.insert(wood.end(), profile.end() - (kWood - kInk), profile.end());
    const double ground = median(std::move(wood)).value_or(0.0);
    double ink = 0.0;
    for (int dx = -kInk; dx <= kInk; ++dx)
        ink += std::abs(profile[static_cast<std::size_t>(dx + kWood)] - ground) / kPixelsPer_mm;
    return ink;
}

// The most that a spot between two heights differs from the wood before and behind it.
double NeckStrip::spot(double along_mm, double from_mm, double to_mm) const {
    constexpr double kBeside_mm = 4.5;
    double most = 0.0;
    const auto at = [this](double along, double across) {
        const int x = std::clamp(static_cast<int>(m_strip.xOf(along)), 0, m_soft.cols - 1);
        return static_cast<double>(m_soft.at<float>(static_cast<int>(m_strip.yOf(across)), x));
    };
    for (double across_mm = from_mm; across_mm <= to_mm; across_mm += 1.0) {
        const double here = at(along_mm, across_mm);
        const double before = at(along_mm - kBeside_mm, across_mm);
        const double behind = at(along_mm + kBeside_mm, across_mm);
        // Beyond both of them, or it is a slope: a shadow, a finger's side.
        const double differs = here > std::max(before, behind)   ? here - std::max(before, behind)
                               : here < std::min(before, behind) ? here - std::min(before, behind)
                                                                 : 0.0;
        if (std::abs(differs) > std::abs(most))
            most = differs;
    }
    return most;
}

std::map<int, WireLook> NeckStrip::looks() const {
    constexpr double kNarrowest_mm = 13.0; // a fret in which an inlay is told
    constexpr double kMiddle_mm = 5.0;
    constexpr double kSide_mm = 18.0;
    std::map<int, WireLook> looks;
    for (int n = kFirst; n <= kLast; ++n) {
        const double along_mm = m_plane.wire_mm(n);
        WireLook look;
        look.clear = clearAt(along_mm);
        if (look.clear < 0.0)
            continue;
        look.between = std::max(0.0, clearAt(m_plane.wire_mm(n + 0.5)));
        look.ink = inkAt(along_mm);
        const double before_mm = m_plane.wire_mm(n - 1);
        const double middle_mm = 0.5 * (before_mm + along_mm);
        if (along_mm - before_mm > kNarrowest_mm && shows(middle_mm, kSide_mm)) {
            look.centre = spot(middle_mm, -kMiddle_mm, kMiddle_mm);
            look.low = spot(middle_mm, -kSide_mm, -kMiddle_mm - 1.0);
            look.high = spot(middle_mm, kMiddle_mm + 1.0, kSide_mm);
        }
        looks.emplace(n, look);
    }
    return looks;
}

NeckStrip::Wires NeckStrip::wires() const {
    constexpr int kParts = 3;
    const double typical = std::max(kLeastClear, kOfTypical * typicalClear(looks()));
    Wires all;
    for (int n = kFirst; n <= kLast; ++n) {
        const double along_mm = m_plane.wire_mm(n);
        const double half_mm = kInner * m_plane.halfWidth_mm(std::max(0.0, along_mm));
        if (!shows(along_mm, half_mm))
            continue;
        const double fret_mm = m_plane.wire_mm(n + 1) - along_mm;
        for (int part = 0; part < kParts; ++part) {
            const double from_mm = -half_mm + 2.0 * half_mm * part / kParts;
            const double to_mm = from_mm + 2.0 * half_mm / kParts;
            const Seen line =
                lineNear(along_mm, from_mm, to_mm, std::min(kReach_mm, 0.25 * fret_mm));
            if (line.clear < typical)
                continue;
            const double y = m_strip.yOf(0.5 * (from_mm + to_mm));
            all.ideal.push_back({m_strip.xOf(along_mm), y});
            all.found.push_back({line.x, y});
        }
    }
    return all;
}

std::optional<double> NeckStrip::off_mm() const {
    const Wires all = wires();
    if (all.ideal.size() < kFewestLines)
        return std::nullopt;
    std::vector<double> off;
    for (std::size_t i = 0; i < all.ideal.size(); ++i)
        off.push_back(std::abs(all.found[i].x - all.ideal[i].along_mm) / m_strip.pixels_per_mm);
    return median(off);
}

std::optional<Homography> NeckStrip::corrected(const BoardEdges& seen) const {
    constexpr int kEach = 8; // points of an edge
    const auto [ideal, found] = wires();
    const auto back = inverse(m_neck);
    if (ideal.size() < kFewestLines || !back)
        return std::nullopt;
    const cv::Matx33d strip = stripMap(m_strip);
    std::array<OnLine, 2> edges;
    for (const bool thin : {false, true}) {
        const auto& [one, other] = thin ? seen.thin : seen.thick;
        const cv::Matx33d to_strip = strip * matrixOf(*back);
        OnLine& edge = edges[thin ? 1 : 0];
        edge.line = (to_strip * cv::Vec3d(one.x, one.y, 1.0))
                        .cross(to_strip * cv::Vec3d(other.x, other.y, 1.0));
        edge.line *= 1.0 / std::hypot(edge.line[0], edge.line[1]);
        for (int k = 0; k < kEach; ++k) {
            const double along_mm = kTo * m_plane.scale_mm() * k / kEach;
            const double half_mm = m_plane.halfWidth_mm(along_mm);
            edge.points.push_back({m_strip.xOf(along_mm), m_strip.yOf(thin ? half_mm : -half_mm)});
        }
    }
    const auto moved = fitted(ideal, found, edges);
    if (!moved)
        return std::nullopt;
    return homographyOf(matrixOf(m_neck) * strip.inv() * *moved * strip);
}

namespace {

constexpr int kMostShift = 8;

// Inlays stand at these frets, as most makers set them; two at the twelfth.
bool marked(int fret) {
    constexpr std::array kMarked = {3, 5, 7, 9, 12, 15, 17, 19, 21, 24};
    return std::ranges::find(kMarked, fret) != kMarked.end();
}

struct Levels {
    double wire = 0.0;
    double ink = 0.0;
    double inlay = 0.0;
};

Levels levelsOf(const std::map<int, WireLook>& looks) {
    std::vector<double> ink;
    std::vector<double> spots;
    for (const auto& [n, look] : looks) {
        if (n >= 1 && n <= 14)
            ink.push_back(look.ink);
        spots.push_back(std::abs(look.centre));
    }
    return {std::max(kLeastClear, kOfTypical * typicalClear(looks)),
            std::max(1.0, median(std::move(ink)).value_or(0.0)),
            std::max(12.0, 4.0 * median(std::move(spots)).value_or(0.0))};
}

double inlaysFor(const std::map<int, WireLook>& looks, int shift, double level) {
    double sum = 0.0;
    for (const auto& [n, look] : looks) {
        const int fret = n - shift;
        if (fret < 1 || fret > 24)
            continue;
        const bool centre = std::abs(look.centre) > level;
        const bool pair = look.low * look.high > 0.0 && std::abs(look.low) > level &&
                          std::abs(look.high) > level && !centre;
        if (fret == 12 || fret == 24)
            sum += pair ? 2.0 : centre ? 0.5 : 0.0;
        else if (marked(fret))
            sum += centre ? 1.0 : -0.2;
        else
            sum -= centre || pair ? 0.8 : 0.0;
    }
    return sum;
}

double nutFor(const std::map<int, WireLook>& looks, int shift, const Levels& levels) {
    double sum = 0.0;
    const auto wire = [&](int n) {
        const auto look = looks.find(n);
        return look == looks.end() ? 0 : look->second.clear > levels.wire ? 1 : -1;
    };
    if (const auto nut = looks.find(shift); nut != looks.end()) {
        const bool there = wire(shift) > 0 || nut->second.ink > 0.8 * levels.ink;
        const double thick = std::log2(std::max(0.25, nut->second.ink / levels.ink));
        sum += there ? 1.5 + std::clamp(1.5 * thick, 0.0, 2.0) : -2.5;
    }
    for (int n = shift - 3; n < shift; ++n)
        sum -= wire(n) > 0 ? 2.0 : 0.0;
    // Frets go on to the nineteenth at least: where they end too early the nut is elsewhere.
    for (int n = shift + 1; n <= shift + 12; ++n)
        sum += wire(n) > 0 ? 0.3 : wire(n) < 0 ? -0.3 : 0.0;
    return sum;
}

} // namespace

Numbering numberFrets(const std::map<int, WireLook>& looks) {
    const Levels levels = levelsOf(looks);
    double wires = 0.0;
    for (const auto& [n, look] : looks) {
        wires += look.clear > levels.wire ? 1.0 : 0.0;
        wires -= look.between > levels.wire && n >= 1 && n <= 19 ? 1.0 : 0.0;
    }
    Numbering best;
    best.score = -1e9;
    double second = -1e9;
    for (int shift = kFirst + 1; shift <= kMostShift; ++shift) {
        const double score = nutFor(looks, shift, levels) + inlaysFor(looks, shift, levels.inlay);
        if (score > best.score) {
            second = best.score;
            best.shift = shift;
            best.score = score;
        } else {
            second = std::max(second, score);
        }
    }
    best.margin = best.score - second;
    best.score += wires;
    return best;
}

} // namespace wirenote::vision
