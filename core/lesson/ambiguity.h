// What may be misunderstood in a text for learners.
#pragma once

#include "lesson/vocabulary.h"

#include <string>
#include <vector>

namespace wirenote {

enum class Ambiguity {
    BareNumber,   // finger, fret, string, count or step of a chord?
    BareLetter,   // a note, a chord or a string?
    LetterNumber, // a chord, or a string and a fret?
    Direction     // up in pitch or up in the air?
};
struct AmbiguousWord {
    Ambiguity what = Ambiguity::BareNumber;
    std::size_t from = 0, to = 0; // bytes of the text
    std::string word;
};

// All of them, in order. A number says what it is by the word beside it; a letter by "note",
// "chord" or "string"; what stands between quotes is counted aloud.
std::vector<AmbiguousWord> ambiguitiesIn(const std::string& text, const Vocabulary& language);

} // namespace wirenote
