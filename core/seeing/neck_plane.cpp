#include "seeing/neck_plane.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

struct NeckWidths {
    double nut_mm, twelfth_mm, spread_nut_mm, spread_bridge_mm;
};

NeckWidths widthsOf(InstrumentKind kind) {
    switch (kind) {
    case InstrumentKind::Guitar:
        return {43.0, 52.0, 35.5, 52.5};
    case InstrumentKind::Guitar7:
        return {48.0, 58.0, 41.0, 63.0};
    case InstrumentKind::Acoustic:
        return {44.0, 55.0, 36.5, 55.0};
    case InstrumentKind::Nylon:
        return {52.0, 62.0, 43.5, 58.5};
    case InstrumentKind::Bass:
        return {40.0, 55.0, 31.0, 57.0};
    case InstrumentKind::Bass5:
        return {45.0, 64.0, 37.0, 72.0};
    }
    return {43.0, 52.0, 35.5, 52.5};
}

constexpr double kLastFret = 40.0;

// Shifts and scales points so that they lie about the origin at a distance of √2, as the method
// asks for.
struct Normal {
    double x = 0.0, y = 0.0, scale = 1.0;
};
template <class Point, class Coordinates>
Normal normalOf(std::span<const Point> points, const Coordinates& of) {
    Normal normal;
    for (const Point& point : points) {
        normal.x += of(point).first / static_cast<double>(points.size());
        normal.y += of(point).second / static_cast<double>(points.size());
    }
    double far = 0.0;
    for (const Point& point : points)
        far += std::hypot(of(point).first - normal.x, of(point).second - normal.y) /
               static_cast<double>(points.size());
    normal.scale = far > 1e-12 ? std::sqrt(2.0) / far : 1.0;
    return normal;
}

Eigen::Matrix3d matrixOf(const Normal& normal) {
    Eigen::Matrix3d m;
    m << normal.scale, 0, -normal.scale * normal.x, 0, normal.scale, -normal.scale * normal.y, 0, 0,
        1;
    return m;
}

std::optional<Homography> homographyOf(const Eigen::Matrix3d& m) {
    if (!m.allFinite() || std::abs(m(2, 2)) < 1e-12)
        return std::nullopt;
    Homography out{};
    for (int i = 0; i < 9; ++i)
        out[static_cast<std::size_t>(i)] = m(i / 3, i % 3) / m(2, 2);
    return out;
}

Eigen::Matrix3d matrixOf(const Homography& map) {
    return Eigen::Map<const Eigen::Matrix<double, 3, 3, Eigen::RowMajor>>(map.data());
}

std::pair<double, double> mapped(const Homography& map, double x, double y) {
    const double w = map[6] * x + map[7] * y + map[8];
    const double safe = std::abs(w) < 1e-12 ? 1e-12 : w;
    return {(map[0] * x + map[1] * y + map[2]) / safe, (map[3] * x + map[4] * y + map[5]) / safe};
}

} // namespace

NeckPlane::NeckPlane(const Instrument& instrument)
    : m_scale_mm(instrument.scale_mm), m_strings(instrument.stringCount()) {
    const NeckWidths widths = widthsOf(instrument.kind);
    m_width_nut_mm = widths.nut_mm;
    m_width_12_mm = widths.twelfth_mm;
    m_spread_nut_mm = widths.spread_nut_mm;
    m_spread_bridge_mm = widths.spread_bridge_mm;
}

double NeckPlane::wire_mm(double fret) const {
    return m_scale_mm * (1.0 - std::exp2(-fret / 12.0));
}

double NeckPlane::fretAt(double along_mm) const {
    const double left = (m_scale_mm - along_mm) / m_scale_mm;
    return left <= std::exp2(-kLastFret / 12.0) ? kLastFret : -12.0 * std::log2(left);
}

double NeckPlane::halfWidth_mm(double along_mm) const {
    const double to_12 = along_mm / (m_scale_mm / 2.0);
    return 0.5 * (m_width_nut_mm + (m_width_12_mm - m_width_nut_mm) * to_12);
}

double NeckPlane::string_mm(double string, double along_mm) const {
    const double spread =
        m_spread_nut_mm + (m_spread_bridge_mm - m_spread_nut_mm) * along_mm / m_scale_mm;
    return spread / 2.0 - (string - 1.0) * spread / std::max(1, m_strings - 1);
}

double NeckPlane::stringAt(PlanePoint at) const {
    const double first = string_mm(1.0, at.along_mm);
    const double apart = first - string_mm(2.0, at.along_mm);
    return 1.0 + (first - at.across_mm) / apart;
}

PlanePoint NeckPlane::edge(double fret, bool thin) const {
    const double along_mm = wire_mm(fret);
    const double half_mm = halfWidth_mm(along_mm);
    return {along_mm, thin ? half_mm : -half_mm};
}

std::optional<Homography> homographyBetween(std::span<const PlanePoint> from,
                                            std::span<const PicturePoint> to) {
    if (from.size() < 4 || from.size() != to.size())
        return std::nullopt;
    const Normal plane =
        normalOf(from, [](const PlanePoint& p) { return std::pair(p.along_mm, p.across_mm); });
    const Normal picture = normalOf(to, [](const PicturePoint& p) { return std::pair(p.x, p.y); });
    Eigen::MatrixXd rows(2 * static_cast<Eigen::Index>(from.size()), 9);
    for (std::size_t i = 0; i < from.size(); ++i) {
        const double x = plane.scale * (from[i].along_mm - plane.x);
        const double y = plane.scale * (from[i].across_mm - plane.y);
        const double u = picture.scale * (to[i].x - picture.x);
        const double v = picture.scale * (to[i].y - picture.y);
        const auto row = 2 * static_cast<Eigen::Index>(i);
        rows.row(row) << -x, -y, -1, 0, 0, 0, u * x, u * y, u;
        rows.row(row + 1) << 0, 0, 0, -x, -y, -1, v * x, v * y, v;
    }
    const Eigen::JacobiSVD<Eigen::MatrixXd> svd(rows, Eigen::ComputeFullV);
    if (!(svd.singularValues()(7) > 1e-9 * svd.singularValues()(0)))
        return std::nullopt; // three of four on a line
    const Eigen::VectorXd h = svd.matrixV().col(8);
    Eigen::Matrix3d m;
    m << h(0), h(1), h(2), h(3), h(4), h(5), h(6), h(7), h(8);
    return homographyOf(matrixOf(picture).inverse() * m * matrixOf(plane));
}

PicturePoint project(const Homography& map, PlanePoint point) {
    const auto [x, y] = mapped(map, point.along_mm, point.across_mm);
    return {x, y};
}

PlanePoint unproject(const Homography& inverse, PicturePoint point) {
    const auto [x, y] = mapped(inverse, point.x, point.y);
    return {x, y};
}

std::optional<Homography> inverse(const Homography& map) {
    const Eigen::Matrix3d m = matrixOf(map);
    if (std::abs(m.determinant()) < 1e-15)
        return std::nullopt;
    return homographyOf(m.inverse());
}

Homography between(const Homography& first, const Homography& second, double share) {
    Homography out{};
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i] = first[i] + share * (second[i] - first[i]);
    return out;
}

} // namespace wirenote
