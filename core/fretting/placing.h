#pragma once

#include "fretting/hand_costs.h"
#include "piece/piece.h"

namespace wirenote {

// Places every note of the piece that no person has placed, with probability, runners-up and
// reasons. Nothing set is changed.
void placeAll(Piece& piece, const HandModel& model = {});

// The same for the notes around one moment: as far as a decision there can matter, at most 24 notes
// or up to a rest of 1.5 s on each side. Beyond that everything stays exactly as it is.
void placeAround(Piece& piece, double time_s, const HandModel& model = {});

// Where each near miss would lie best: a string that is free then, near the hand.
void placeMisses(Piece& piece);

// A string sounds one note at a time: what was heard to ring on into the next note of its string
// ends there. Times that were set stay.
void endOnSameString(Piece& piece);

} // namespace wirenote
