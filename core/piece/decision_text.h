// What changed of a note, in words for the decision log.
#pragma once

#include "piece/piece.h"

#include <string>

namespace wirenote {

std::string placeWords(Position place); // "string 4, fret 5"
std::string_view basisWord(Basis basis);
std::string fingerWord(Finger finger);
std::string_view strokeWord(Stroke stroke);
std::string_view techniqueWord(Technique technique);

// A note with what one reading says of it.
struct DecidedNote {
    Note note;
    NotePlan plan;
};

// What of a note was decided otherwise: what it was and is, what had been found and what else might
// have been. All empty where nothing differs.
struct ChangeText {
    std::string from;
    std::string to;
    std::string evidence; // "string and fret heard, 62 %"
    std::string rejected; // "string 3, fret 10 (31 %)"
    bool operator==(const ChangeText&) const = default;
};
ChangeText changeText(const DecidedNote& before, const DecidedNote& after, Spelling spelling);

} // namespace wirenote
