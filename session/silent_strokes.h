// What a hand that never stops does where nothing sounds.
#pragma once

#include "piece/piece.h"

#include <vector>

namespace wirenote {

// A place of a bar: beat from 0, and twelfths of it.
struct CountPlace {
    int beat = 0;
    int twelfth = 0;
    bool operator==(const CountPlace&) const = default;
};

struct SilentStrokes {
    // Scratches as a texture, over the section or the whole piece: how many of the strokes that do
    // not sound scratch, and where in the bar they nearly always do. What is not steady is no fixed
    // note: it may be played at this density (common practice).
    int scratched = 0;
    int passed = 0; // in silence
    std::vector<CountPlace> steady;
    // Down-strokes of one bar that pass in silence on a beat, with time before and after: where a
    // strum may fall round a tune of single notes.
    std::vector<CountPlace> room;
    double density() const {
        return scratched == 0 ? 0.0 : static_cast<double>(scratched) / (scratched + passed);
    }
};

// Of one bar and the section in which it lies, by "as played". Empty without beats or a pick.
SilentStrokes silentStrokes(const Piece& piece, int bar);

} // namespace wirenote
