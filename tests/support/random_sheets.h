// Pieces of every kind that can stand on a sheet, made of a number.
#pragma once

#include "piece/piece.h"
#include "score/sheet.h"

#include <vector>

namespace wirenote::test {

// In time, placed, fingered and stroked, with techniques, chords, voices, tuplets, changes of metre
// and sections as chance has it; the style of its sheet too. The same number gives the same piece.
Piece randomSheetPiece(unsigned seed);
// Names over some of its notes.
std::vector<ChordSign> randomChords(const Piece& piece, unsigned seed);

} // namespace wirenote::test
