// Which note of one piece is which of another.
#pragma once

#include "base/rational.h"
#include "piece/piece.h"

#include <cstddef>
#include <utility>
#include <vector>

namespace wirenote {

// Where a note is written.
struct Spot {
    std::size_t index = 0;
    Rational start;
    Rational length;
    bool grace = false;
};

struct NotePairs {
    std::vector<std::pair<std::size_t, std::size_t>> same; // indices in a and in b
    std::vector<std::size_t> only_a;
    std::vector<std::size_t> only_b;
    int semitones = 0;      // by how much all of b sounds higher
    bool by_number = false; // they are of one piece
    std::vector<Spot> spots_a;
    std::vector<Spot> spots_b;
};

// Notes of one piece by their numbers, others by where in their bars they are written: bar 1 of
// both is the same.
NotePairs pairNotes(const Piece& a, const Piece& b);

} // namespace wirenote
