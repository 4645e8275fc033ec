// Which string one would like to hear by itself.
#pragma once

#include "piece/piece.h"

#include <optional>

namespace wirenote {

struct StringWish {
    int string = 1;
    int places = 0;  // in doubt, with this string among what they may be
    NoteId note = 0; // the heard note that is likeliest its open string; 0: none is
    bool operator==(const StringWish&) const = default;
};

// Where places are in doubt, the string whose open note would settle most of them, were it known:
// it is the one on which most of the doubt lies. Nothing where few places are in doubt, or where
// every string was calibrated.
std::optional<StringWish> stringWish(const Piece& piece);

} // namespace wirenote
