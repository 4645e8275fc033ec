// The two clocks. What is written down (notes, beats, loops) is in the piece's time, which is the
// leading take's; a moment of a recording is in its own take's. Only TakeAlignment turns one into
// the other.
#pragma once

#include <compare>

namespace wirenote {

struct PieceTime {
    double s = 0.0;
    auto operator<=>(const PieceTime&) const = default;
};

struct TakeTime {
    double s = 0.0;
    auto operator<=>(const TakeTime&) const = default;
};

} // namespace wirenote
