// What is said, as words that can be looked at one by one.
#pragma once

#include "lesson/vocabulary.h"

#include <optional>
#include <string>
#include <vector>

namespace wirenote {

struct Word {
    std::string text;             // in lower case
    std::string written;          // as it stood
    std::size_t from = 0, to = 0; // bytes of the text
    bool clause_ends = false;     // a comma, a full stop, a colon … follows
    bool sentence_ends = false;   // one that ends a sentence
    bool quoted = false;          // between “ and ”
    std::optional<int> number;    // "3", "three", "third", "3rd"
    bool ordinal = false;         // "third", "3rd"
};

// Words of a text, with what they count by this language. Words that are said twice running are
// kept; mark-up in angle brackets is left out.
std::vector<Word> wordsOf(const std::string& text, const Vocabulary& language);

// Whether a word is one of those, exactly.
bool isOneOf(const Word& word, const std::vector<std::string>& list);
// … or, of five letters and more, one letter off: missing, added, another, or two changed places
// (the restricted edit distance: Damerau, Communications of the ACM 7, 1964).
bool soundsLike(const Word& word, const std::vector<std::string>& list);

std::string lowerCase(const std::string& text); // ASCII and Latin-1 letters in UTF-8

} // namespace wirenote
