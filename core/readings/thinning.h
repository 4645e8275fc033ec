// What an easier reading leaves out.
#pragma once

#include "piece/piece.h"

#include <vector>

namespace wirenote {

// How much easier: 1 leaves ornaments out and what a person said may go; 2 also the inner notes of
// chords and what is too fast between the beats; 3 keeps the tune, and the bass on the beats.
constexpr int kEasiestLevel = 3;

// One for each note of a piece in one reading. Notes that must land stay; what was slurred from a
// note that is left out is struck. `bpm`: at which tempo it is to be played, for notes that may go
// above one only; 0: as the piece is.
std::vector<Departure> thinned(const Piece& view, int level, double bpm = 0.0);

// The notes that may be left out at this tempo, and no others: what a reading for a faster tempo
// does without.
std::vector<Departure> withoutWhatMayGo(const Piece& view, double bpm);

} // namespace wirenote
