// Other readings of the same notes, made on demand: easier, in one position, without barres …
#pragma once

#include "base/result.h"
#include "piece/piece.h"

#include <string>
#include <string_view>
#include <vector>

namespace wirenote {

// "easiest", "one-position", "one-position:5", "no-open", "no-barre", "stretch:4", "small-hand",
// "tempo:1.2"; anything else is an error that says what there is.
Result<ReadingWish> parseWish(std::string_view text);

// What a reading of this wish is called: "no barre", "stretch 4".
std::string wishName(const ReadingWish& wish);

struct MadeReading {
    std::size_t index = 0;     // in Piece::readings
    std::vector<NoteId> unmet; // where what was wished cannot be had: these lie as near as it goes
};

// Adds the reading, with places, fingers and strokes of its own; one of that name is made anew.
// What a person set in "as played" does not bind it. An error where the piece is full of readings.
Result<MadeReading> makeReading(Piece& piece, const ReadingWish& wish, const std::string& when);

// "bar 3, beat 2, string 5": where a note is, for people. Empty for a note that is not there.
std::string whereText(const Piece& piece, NoteId note);

} // namespace wirenote
