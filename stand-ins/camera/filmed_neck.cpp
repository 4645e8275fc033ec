#include "camera/filmed_neck.h"

#include "camera/neck_paint.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>

namespace wirenote::standin {
namespace {

double handAt(const FilmedHand& hand, PlanePoint at, bool& shadow) {
    for (const PlanePoint& tip : hand.tips)
        if (const double bright = fingerAt(tip, at, shadow); bright > 0.0)
            return bright;
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
                const double finger = handAt(hand, there, shadow);
                const Colour colour =
                    finger > 0.0
                        ? kSkin * finger
                        : neckColour(plane, there)
                                  .value_or(behindColour(here.x + view.background, here.y)) *
                              (shadow ? 0.75 : 1.0);
                sum = sum + colour * (1.0 / (each * each));
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
