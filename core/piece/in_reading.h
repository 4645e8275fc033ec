// A piece as one of its readings has it, and what was changed in such a view put back.
#pragma once

#include "piece/piece.h"

#include <cstddef>

namespace wirenote {

// The signature of this key so many semitones higher, with as few signs as can be.
KeySignature transposed(KeySignature key, int semitones);

// The piece with only this reading, as the one it is played in: on the reading's instrument, at its
// pitch, without what it leaves out and with what it adds. Notes keep their ids. At another pitch
// or on another neck what was heard of strings and near misses do not go with it, nor do names of
// chords in another key.
// `reading` must be one of its. What is departed from is not in it: how exact it is goes along in
// one line (ReadingHead::statement).
Piece inReading(const Piece& piece, std::size_t reading);
// The same without that line, for who solves or judges it.
Piece bareReading(const Piece& piece, std::size_t reading);

// Whether a reading is the notes as they were heard, on the piece's instrument: then its plans go
// with the piece's notes as they stand.
bool sameNotes(const Reading& reading);

// Puts places, fingers, strokes and what they rest on from a view of inReading() back. Notes that
// the view lacks stay as they are.
void keepPlans(const Piece& view, Piece& piece, std::size_t reading);

// Puts an edit of a view back into the piece: `before` is what inReading() gave, `after` the same
// edited. What was heard stays: a note that went is left out of this reading, one that came is this
// reading's own, another pitch or technique is a departure of this reading. What is no note's (and
// which voice, need or open doubt a note has) holds for the whole piece. Error: when a note sounds
// was changed, which belongs to "as played"; nothing is changed then.
Status foldReading(const Piece& before, const Piece& after, Piece& piece, std::size_t reading);

} // namespace wirenote
