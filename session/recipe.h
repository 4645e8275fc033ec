// What another reading is made for, as a person says it.
#pragma once

#include "base/result.h"
#include "piece/piece.h"

#include <filesystem>
#include <optional>
#include <string>
#include <string_view>

namespace wirenote {

// All of it at once, where several things are asked.
struct ReadingRecipe {
    ReadingWish wish;
    std::optional<Instrument> instrument; // another one, tuning or capo
    int semitones = 0;                    // so much higher, −24 to 24
    std::optional<FrettingManner> fretting;
    std::optional<PluckingSchool> plucking;
    bool no_slurs = false;       // every note is struck
    std::filesystem::path score; // as this score has it
    std::string name;            // "easier, level 2, capo 3"
};

// Parts joined by "+": easiest, easier[:1..3], one-position[:FRET], no-open, no-barre,
// stretch:FRETS, small-hand, tempo:TIMES, transpose:SEMITONES, capo:FRET, tuning:"D2 A2 …",
// instrument:NAME, fretting:SCHOOL, plucking:SCHOOL, no-slurs, score:FILE. `own`: the piece's
// instrument, which another tuning or capo is of. An error says what there is.
Result<ReadingRecipe> parseRecipe(std::string_view text, const Instrument& own);

} // namespace wirenote
