// A score as a reading of a piece: an old edition, typed in or read from a file.
#pragma once

#include "piece/piece.h"

#include <string>

namespace wirenote {

// The reading `name` of the piece that plays what the score has: where both have a note it is the
// piece's, at the score's pitch, with the places, fingers, strokes and techniques that the score
// gives (set, as a score has them); what the score lacks is left out, what it has more is added, in
// the time of the piece. What the score does not say of hands is open, to be solved. Notes added
// get numbers from `next_id` on, which moves.
Reading readingOfScore(const Piece& piece, const Piece& score, std::string name, NoteId& next_id);

} // namespace wirenote
