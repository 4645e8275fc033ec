// Patterns of the plucking hand that come again from bar to bar.
#pragma once

#include "piece/piece.h"

#include <vector>

namespace wirenote {

constexpr int kCellSlots = 12; // of a felt beat: halves, thirds and quarters of it are whole

struct CellStroke {
    int slot = 0;                // from the start of the cell
    std::vector<Stroke> strokes; // of what is struck there, the thickest string first
    std::vector<int> strings;
    bool sameStrokes(const CellStroke& other) const {
        return slot == other.slot && strokes == other.strokes;
    }
};

// What the plucking hand does from bar to bar, chords or strings apart.
struct Cell {
    int first_bar = 1;
    int last_bar = 1;
    int beats = 4;                   // how long it is: a bar, or half of one
    std::vector<CellStroke> strokes; // on the strings of the first bar
    std::vector<int> moved;          // bars in which it lies on other strings
    std::vector<int> exceptions;     // bars in which something else is struck
};

// All runs of two bars and more that are struck alike, by the strokes of this reading; one bar of
// four, at the most, may differ where the pattern comes back. In time.
std::vector<Cell> cellsOf(const Piece& piece, std::size_t reading = 0);

} // namespace wirenote
