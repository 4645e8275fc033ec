// Peaks of sampled curves: the one search for them, and where between the samples they lie.
#pragma once

#include <cstddef>
#include <optional>

namespace wirenote {

// Where the highest or lowest point of a curve lies, in samples from the middle one of three, by the
// parabola through them (on the logarithm of a spectrum: Smith & Serra, PARSHL, 1987); 0 on a
// straight line.
inline double vertexOf(double left, double middle, double right) {
    const double curve = left - 2.0 * middle + right;
    return curve != 0.0 ? 0.5 * (left - right) / curve : 0.0;
}

// What counts when the highest value of a stretch is at its edge and rises beyond: nothing, or the
// highest peak within.
enum class AtEdge { Nothing, HighestWithin };

// The highest peak among values[first] … values[last]: no lower than the value behind it and higher
// than the one before. Both neighbours of the stretch must be there.
template <class Values>
std::optional<std::size_t> highestPeak(const Values& values,
                                       std::size_t first,
                                       std::size_t last,
                                       AtEdge edge = AtEdge::Nothing) {
    const auto isPeak = [&](std::size_t i) {
        return values[i] > values[i - 1] && values[i] >= values[i + 1];
    };
    std::optional<std::size_t> best;
    for (std::size_t i = first; i <= last; ++i)
        if ((edge == AtEdge::Nothing || isPeak(i)) && (!best || values[i] > values[*best]))
            best = i;
    return best && isPeak(*best) ? best : std::nullopt;
}

} // namespace wirenote
