#pragma once

#include "base/rational.h"
#include "piece/piece.h"

#include <vector>

namespace wirenote {

// A note in score time: quarter notes from the start of bar 1 (negative in the pick-up).
struct ScoreNote {
    std::size_t index = 0; // into Piece::notes
    Rational start;
    Rational length; // > 0
};

// Puts the notes on the grid that fits each beat best: sixteenths, or thirds of the beat where they
// fit clearly better. Notes of one line do not overlap afterwards; two notes on one grid point are
// kept together as a chord. A note that ends shortly before the next begins is written up to it.
std::vector<ScoreNote> quantise(const Piece& piece);

} // namespace wirenote
