// SIMULATED: how a neck, what lies behind it and skin look to the simulated camera.
#pragma once

#include "seeing/neck_plane.h"

#include <optional>

namespace wirenote::standin {

// 0..255 each.
struct Colour {
    double r = 0.0, g = 0.0, b = 0.0;
    Colour operator*(double by) const { return {r * by, g * by, b * by}; }
    Colour operator+(const Colour& other) const { return {r + other.r, g + other.g, b + other.b}; }
};

// Head, board with wires, strings and dots, and body; nothing elsewhere.
std::optional<Colour> neckColour(const NeckPlane& plane, PlanePoint at);
// Something that no neck is: stripes and blots, at a point of the picture.
Colour behindColour(double x, double y);

constexpr Colour kSkin = {214, 158, 124};
constexpr double kFlesh_mm = 4.5; // of a finger that goes on beyond where it presses
// How bright the skin of a finger, which comes over the edge of the thin strings to that tip, is at
// a point: 0 where it is not; `shadow` becomes true beside it.
double fingerAt(PlanePoint tip, PlanePoint at, bool& shadow);

} // namespace wirenote::standin
