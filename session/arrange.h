// A piece for another instrument, tuning, capo or key, as a piece of its own.
#pragma once

#include "piece/piece.h"
#include "session/other_readings.h"

#include <vector>

namespace wirenote {

struct Arrangement {
    Piece piece;      // with one reading
    Reading reading;  // as it would be kept beside "as played"
    MadeReading made; // what became of its notes
};

// The piece as makeReading() makes it from "as played". In another key it is another piece: its
// takes, names of chords and what was followed do not go with it. `when` is the time written into
// the log (ISO 8601, UTC). Errors: as of makeReading().
Result<Arrangement>
arrange(const Piece& piece, const ReadingRecipe& recipe, const std::string& when);

} // namespace wirenote
