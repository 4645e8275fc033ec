// A piece for another instrument, tuning, capo or key, and a piece in another of its readings.
#pragma once

#include "piece/piece.h"

#include <vector>

namespace wirenote {

// A note that lies outside the other neck and was taken octaves away.
struct OctaveMove {
    NoteId note = 0;
    int semitones = 0; // further than the others; a multiple of 12
};

struct Arrangement {
    Piece piece; // with one reading
    std::vector<OctaveMove> moved;
    std::vector<NoteId> unmet; // no place, or not as wished
};

// Every note `semitones` higher (−24 to 24), placed and stroked anew on this instrument by the
// school and the tool of "as played" and the wish: nothing that was set or heard of strings holds
// on another neck. In another key it is another piece: its takes, chord names and variants do not
// go with it. `when` is the time written into the log (ISO 8601, UTC). Errors: an instrument that
// cannot be, or too far a way.
Result<Arrangement> arrange(const Piece& piece,
                            const Instrument& instrument,
                            int semitones,
                            const std::string& when,
                            const ReadingWish& wish = {});

// The piece with only this reading, as the one it is played in. `reading` must be one of its.
Piece inReading(Piece piece, std::size_t reading);

} // namespace wirenote
