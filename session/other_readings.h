// Other readings of a piece, made on demand: easier, in one position, in another key, for another
// instrument, as a score has it …
#pragma once

#include "base/result.h"
#include "piece/piece.h"
#include "session/recipe.h"

#include <string>
#include <vector>

namespace wirenote {

// A note that lies outside the other neck and was taken octaves away.
struct OctaveMove {
    NoteId note = 0;
    int semitones = 0; // further than the others; a multiple of 12
};

struct MadeReading {
    std::size_t index = 0;     // in Piece::readings
    std::vector<NoteId> unmet; // where what was wished cannot be had: these lie as near as it goes
    std::vector<OctaveMove> moved; // outside the other neck
    std::vector<NoteId> left_out;  // why: their departure
    std::vector<NoteId> stopped;   // sounded open strings, and are stopped now
};

// Adds the reading, with places, fingers and strokes of its own, made from the reading `from`; one
// of that name is made anew, unless a person has worked on it, or it is `from` itself: then the new
// one has a number to its name. What a person set there does not bind it, but for what must land or
// may be left out. Notes that lie outside the other neck are taken octaves away; what no hand takes
// with the others of its stroke is left out. Errors: the piece is full of readings; a score that
// cannot be read; an instrument that cannot be.
Result<MadeReading> makeReading(Piece& piece,
                                const ReadingRecipe& recipe,
                                const std::string& when,
                                std::size_t from = 0);

// A reading as it is played, held against itself: what still sounds when its string or finger is
// needed ends there. For who writes, plays or compares it; "as played" is as it was heard.
Piece asReading(const Piece& piece, std::size_t reading);

// The readings of a piece that are for this tempo (felt beats a minute) by what is said of them.
std::vector<std::size_t> readingsFor(const Piece& piece, double bpm);

// "bar 3, beat 2": where a note is, for people. Empty for a note that is not there.
std::string whereText(const Piece& piece, NoteId note);

} // namespace wirenote
