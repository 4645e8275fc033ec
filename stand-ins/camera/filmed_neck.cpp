#include "camera/filmed_neck.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>

namespace wirenote::standin {
namespace {

struct Colour {
    double r = 0.0, g = 0.0, b = 0.0;
    Colour operator*(double by) const { return {r * by, g * by, b * by}; }
};

constexpr Colour kBoard = {78, 48, 34};
constexpr Colour kWire = {205, 200, 190};
constexpr Colour kString = {188, 182, 170};
constexpr Colour kDot = {225, 222, 210};
constexpr Colour kHead = {120, 72, 40};
constexpr Colour kBody = {196, 140, 70};
constexpr Colour kSkin = {214, 158, 124};
constexpr double kFinger_mm = 7.0; // half as wide as a finger
constexpr double kFlesh_mm = 4.5;  // that goes on beyond where it presses
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

// Something that no neck is: stripes and blots.
Colour behind(double x, double y) {
    const double wave = 0.5 + 0.25 * std::sin(0.031 * x) + 0.25 * std::sin(0.047 * y + 0.6);
    return Colour{70, 96, 130} * (0.7 + 0.6 * wave);
}

Colour neckColour(const NeckPlane& plane, PlanePoint at, Colour else_is) {
    const double half_mm = plane.halfWidth_mm(at.along_mm);
    const bool in_band = std::abs(at.across_mm) < half_mm;
    if (at.along_mm > 0.72 * plane.scale_mm())
        return std::abs(at.across_mm) < 170.0 && at.along_mm < 1.2 * plane.scale_mm() ? kBody
                                                                                      : else_is;
    if (at.along_mm < 0.0)
        return at.along_mm > -160.0 && std::abs(at.across_mm) < 32.0 ? kHead : else_is;
    if (!in_band)
        return else_is;
    for (int string = 1; string <= plane.strings(); ++string)
        if (std::abs(plane.string_mm(string, at.along_mm) - at.across_mm) < 0.5)
            return kString;
    if (nearWire(plane, at.along_mm))
        return kWire;
    return onDot(plane, at) ? kDot : kBoard * (0.95 + 0.05 * std::sin(0.9 * at.along_mm));
}

// How a finger lies there: 0 not at all, else how bright it is; `shadow` beside it.
double fingerAt(const FilmedHand& hand, PlanePoint at, bool& shadow) {
    for (const PlanePoint& tip : hand.tips) {
        const double aside_mm = at.along_mm - tip.along_mm;
        const double end_mm = tip.across_mm - kFlesh_mm;
        const double over_mm = at.across_mm - end_mm - kFinger_mm;
        const double off_mm = over_mm >= 0.0 ? std::abs(aside_mm) : std::hypot(aside_mm, over_mm);
        if (off_mm < kFinger_mm)
            return 0.75 + 0.25 * std::cos(off_mm / kFinger_mm * std::numbers::pi / 2.0);
        shadow = shadow || off_mm < kFinger_mm + 4.0;
    }
    return 0.0;
}

} // namespace

std::vector<std::uint8_t>
filmNeck(const NeckPlane& plane, const FilmedView& view, const FilmedHand& hand) {
    std::vector<std::uint8_t> rgb(static_cast<std::size_t>(view.width) *
                                  static_cast<std::size_t>(view.height) * 3);
    const auto back = inverse(view.neck);
    std::minstd_rand random(view.grain);
    std::uniform_real_distribution<double> grain(-3.0, 3.0);
    std::size_t at = 0;
    for (int y = 0; y < view.height && back; ++y)
        for (int x = 0; x < view.width; ++x) {
            Colour sum;
            const int each = view.fine ? 2 : 1; // points a pixel either way
            for (int k = 0; k < each * each; ++k) {
                const int across = k % each;
                const int below = k / each;
                const PicturePoint here{x + (across + 0.5) / each, y + (below + 0.5) / each};
                const PlanePoint there = unproject(*back, here);
                bool shadow = false;
                const double finger = fingerAt(hand, there, shadow);
                Colour colour =
                    finger > 0.0
                        ? kSkin * finger
                        : neckColour(plane, there, behind(here.x + view.background, here.y)) *
                              (shadow ? 0.75 : 1.0);
                const double share = 1.0 / (each * each);
                sum = {
                    sum.r + colour.r * share, sum.g + colour.g * share, sum.b + colour.b * share};
            }
            for (const double channel : {sum.r, sum.g, sum.b})
                rgb[at++] = static_cast<std::uint8_t>(
                    std::clamp(channel * view.light + grain(random), 0.0, 255.0));
        }
    return rgb;
}

FilmedHand handOn(const NeckPlane& plane, int hand_fret, int string, int fret) {
    FilmedHand hand;
    constexpr double kBehindWire = 0.3;
    constexpr double kHovers_mm = 3.0; // short of the edge
    for (int finger = 0; finger < 4; ++finger) {
        const double along_mm = plane.wire_mm(hand_fret + finger - kBehindWire);
        const bool presses = hand_fret + finger == fret;
        hand.tips.push_back({along_mm,
                             presses ? plane.string_mm(string, along_mm)
                                     : plane.halfWidth_mm(along_mm) - kFlesh_mm - kHovers_mm});
    }
    return hand;
}

Homography cameraOn(const NeckPlane& plane, double lean_deg, double zoom, PicturePoint moved) {
    const double a = lean_deg * std::numbers::pi / 180.0;
    const double scale = zoom * 460.0 / plane.scale_mm(); // pixels a millimetre
    const double far = 0.00025;                           // the head is a little farther away
    Homography map{};
    // Along the neck runs to the left, the thin strings are below.
    map = {-scale * std::cos(a),
           -scale * std::sin(a),
           500.0 + moved.x,
           -scale * std::sin(a),
           scale * std::cos(a),
           210.0 + moved.y,
           -far * 0.2,
           0.0,
           1.0};
    return map;
}

} // namespace wirenote::standin
