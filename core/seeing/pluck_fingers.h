// Which finger plucked which note, by what moves of the plucking hand.
#pragma once

#include "piece/seen.h"

#include <array>
#include <optional>
#include <vector>

namespace wirenote {

// How much each part of the place in which strings are plucked changed about an attack: a square of
// kSide × kSide, row by row, from the thick strings' side, each row from the neck on.
struct PluckMap {
    static constexpr std::size_t kSide = 24;
    std::array<float, kSide * kSide> changed{};

    double all() const;   // of it
    double along() const; // where the change lies, from the neck (0) to the bridge (1)
    // Likewise, of its end at the neck: pick and fingertips are before the hand.
    double edge() const;
};

struct PluckedNote {
    std::optional<PluckMap> map; // nothing: out of sight
    int midi = 0;
};

struct PluckSeen {
    std::array<double, 5> fingers{}; // as SeenFacts::plucked
    std::optional<double> unplucked;
};

// The maps of one finger resemble each other: they are sorted into two to four kinds (k-means by
// the angle between them, spherical k-means, Dhillon & Modha 2001), more only where that brings
// much. Then each kind gets its finger: on a bass (`two`) index and middle, the index nearer to the
// neck; else thumb, index, middle and ring as their notes go up (common practice). Where little
// moves, nothing was plucked. Nothing is told of too few notes.
std::vector<PluckSeen> pluckFingers(const std::vector<PluckedNote>& notes, bool two);

} // namespace wirenote
