#include "camera/neck_paint.h"

#include <cmath>
#include <numbers>

namespace wirenote::standin {
namespace {

constexpr Colour kBoard = {78, 48, 34};
constexpr Colour kWire = {205, 200, 190};
constexpr Colour kString = {188, 182, 170};
constexpr Colour kDot = {225, 222, 210};
constexpr Colour kHead = {120, 72, 40};
constexpr Colour kBody = {196, 140, 70};
constexpr double kFinger_mm = 7.0; // half as wide as a finger
constexpr double kLastFret = 20.0;

bool nearWire(const NeckPlane& plane, double along_mm) {
    const double fret = std::round(plane.fretAt(along_mm));
    return fret >= 0.0 && fret <= kLastFret && std::abs(plane.wire_mm(fret) - along_mm) < 0.8;
}

bool onDot(const NeckPlane& plane, PlanePoint at) {
    for (const int fret : {3, 5, 7, 9, 12, 15, 17}) {
        const double middle_mm = 0.5 * (plane.wire_mm(fret - 1) + plane.wire_mm(fret));
        if (std::hypot(at.along_mm - middle_mm, at.across_mm) < 3.0)
            return true;
    }
    return false;
}

} // namespace

Colour behindColour(double x, double y) {
    const double wave = 0.5 + 0.25 * std::sin(0.031 * x) + 0.25 * std::sin(0.047 * y + 0.6);
    return Colour{70, 96, 130} * (0.7 + 0.6 * wave);
}

std::optional<Colour> neckColour(const NeckPlane& plane, PlanePoint at) {
    const double half_mm = plane.halfWidth_mm(at.along_mm);
    if (at.along_mm > 0.72 * plane.scale_mm())
        return std::abs(at.across_mm) < 170.0 && at.along_mm < 1.2 * plane.scale_mm()
                   ? std::optional(kBody)
                   : std::nullopt;
    if (at.along_mm < 0.0)
        return at.along_mm > -160.0 && std::abs(at.across_mm) < 32.0 ? std::optional(kHead)
                                                                     : std::nullopt;
    if (std::abs(at.across_mm) >= half_mm)
        return std::nullopt;
    for (int string = 1; string <= plane.strings(); ++string)
        if (std::abs(plane.string_mm(string, at.along_mm) - at.across_mm) < 0.5)
            return kString;
    if (nearWire(plane, at.along_mm))
        return kWire;
    return onDot(plane, at) ? kDot : kBoard * (0.95 + 0.05 * std::sin(0.9 * at.along_mm));
}

double fingerAt(PlanePoint tip, PlanePoint at, bool& shadow) {
    const double aside_mm = at.along_mm - tip.along_mm;
    const double end_mm = tip.across_mm - kFlesh_mm;
    const double over_mm = at.across_mm - end_mm - kFinger_mm;
    const double off_mm = over_mm >= 0.0 ? std::abs(aside_mm) : std::hypot(aside_mm, over_mm);
    if (off_mm < kFinger_mm)
        return 0.75 + 0.25 * std::cos(off_mm / kFinger_mm * std::numbers::pi / 2.0);
    shadow = shadow || off_mm < kFinger_mm + 4.0;
    return 0.0;
}

} // namespace wirenote::standin
