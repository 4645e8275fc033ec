#pragma once

#include "piece/piece.h"

#include <vector>

namespace wirenote {

// Notes that one movement of the plucking hand begins: a strum, a pinch, or a single note. Slurred
// notes belong to none.
struct Attack {
    std::vector<std::size_t> notes; // indices into the piece
    double onset_s = 0.0;
    double down = 0.5; // probability, from sound, that the thick strings came first
    bool heard = false;
};

// All attacks of a piece, in time.
std::vector<Attack> attacksOf(const Piece& piece);

} // namespace wirenote
