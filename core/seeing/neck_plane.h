// The fingerboard as a plane, in millimetres, and how a camera sees it.
#pragma once

#include "music/instrument.h"

#include <array>
#include <optional>
#include <span>

namespace wirenote {

// On the fingerboard: from the front of the nut towards the bridge, and from its middle towards the
// edge of the thin strings.
struct PlanePoint {
    double along_mm = 0.0;
    double across_mm = 0.0;
    bool operator==(const PlanePoint&) const = default;
};

// In a picture, in pixels from its upper left corner.
struct PicturePoint {
    double x = 0.0;
    double y = 0.0;
    bool operator==(const PicturePoint&) const = default;
};

// Where wires, edges and strings lie. Wires by d_n = L·(1 − 2^(−n/12)); widths are usual ones of
// each kind (common practice, a millimetre or two either way): they widen evenly from nut to
// bridge, and so do the strings.
class NeckPlane {
  public:
    explicit NeckPlane(const Instrument& instrument);

    double scale_mm() const { return m_scale_mm; }
    int strings() const { return m_strings; }
    double wire_mm(double fret) const;    // 0: the nut
    double fretAt(double along_mm) const; // the other way; at most 40
    double halfWidth_mm(double along_mm) const;
    double string_mm(double string, double along_mm) const; // across; string 1 is the thinnest
    double stringAt(PlanePoint at) const;                   // the other way, no whole number
    PlanePoint edge(double fret, bool thin) const;          // where a wire meets an edge

  private:
    double m_scale_mm;
    int m_strings;
    double m_width_nut_mm;
    double m_width_12_mm;
    double m_spread_nut_mm;    // from the first string to the last …
    double m_spread_bridge_mm; // … at the bridge
};

// A projective map from one plane to another, row by row; the last is 1.
using Homography = std::array<double, 9>;

// From at least four points that are no line: the direct linear transformation (Hartley &
// Zisserman, "Multiple View Geometry", 2nd ed., algorithm 4.2). Nothing where the points do not
// give one.
std::optional<Homography> homographyBetween(std::span<const PlanePoint> from,
                                            std::span<const PicturePoint> to);
PicturePoint project(const Homography& map, PlanePoint point);
std::optional<Homography> inverse(const Homography& map);
// Back from the picture by an inverse map.
PlanePoint unproject(const Homography& inverse, PicturePoint point);
// Between two maps of one neck, as close to the second as `share` says (0..1).
Homography between(const Homography& first, const Homography& second, double share);

} // namespace wirenote
