// Reads sentences of a lesson back, with nothing of the code that wrote them: what an English
// reader with the instrument on the lap would understand.
#pragma once

#include "music/instrument.h"

#include <optional>
#include <string>
#include <vector>

namespace wirenote::test {

// What one part of a sentence says of one string.
struct ReadPlace {
    int string = 0;          // 0: not understood
    std::optional<int> fret; // 0: open
    std::string finger;      // "1" … "4", "T"; empty: none said
    std::string stroke;      // "down", "up", "p", "i", "m", "a", "c", "ghost", "none"
    std::string note;        // "C♯"; empty: none said
    bool operator==(const ReadPlace&) const = default;
};

struct ReadSentence {
    std::optional<int> bar;  // 0: the pick-up
    std::optional<int> beat; // from 1
    std::string part;        // what is counted of it: "&"
    bool again = false;      // "the same again"
    std::vector<ReadPlace> places;
};

// "Bar 3, beat 2: finger 1 on string 5, fret 3, note C." Nothing for another kind of sentence.
std::optional<ReadSentence> readMoment(const std::string& sentence, const Instrument& instrument);
// "The second thickest string", "string 3", "the thin E string"; 0: none of this instrument.
int readString(const std::string& text, const Instrument& instrument);

} // namespace wirenote::test
