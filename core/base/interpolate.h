// Straight lines between points whose x rise, going on before the first and after the last: the one
// way from seconds to beats and back.
#pragma once

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <span>

namespace wirenote {

// Which of the stretches between neighbouring points x lies in, the outer ones going on. At least
// two points, rising.
inline std::size_t stretchOf(std::span<const double> xs, double x) {
    const auto next = std::upper_bound(xs.begin() + 1, xs.end() - 1, x);
    return static_cast<std::size_t>(next - xs.begin()) - 1;
}

// Where x lies, counted in points from the first (2.5: half-way between the third and the fourth).
inline double placeAmong(std::span<const double> xs, double x) {
    const std::size_t i = stretchOf(xs, x);
    return static_cast<double>(i) + (x - xs[i]) / (xs[i + 1] - xs[i]);
}

// The x at such a place.
inline double atPlace(std::span<const double> xs, double place) {
    const double whole = std::clamp(std::floor(place), 0.0, static_cast<double>(xs.size() - 2));
    const auto i = static_cast<std::size_t>(whole);
    return xs[i] + (place - whole) * (xs[i + 1] - xs[i]);
}

// The y at x along the lines through (x, y).
inline double along(std::span<const double> xs, std::span<const double> ys, double x) {
    const std::size_t i = stretchOf(xs, x);
    return ys[i] + (x - xs[i]) / (xs[i + 1] - xs[i]) * (ys[i + 1] - ys[i]);
}

} // namespace wirenote
