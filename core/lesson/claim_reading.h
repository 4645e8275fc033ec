// What somebody claims of the notes, read out of what they say.
#pragma once

#include "lesson/speaker.h"
#include "lesson/spoken.h"
#include "music/chord_names.h"
#include "piece/note.h"

#include <optional>
#include <string>
#include <vector>

namespace wirenote {

// What is said of one note, chord or bar. A field that nobody spoke of is empty.
struct SpokenClaim {
    std::vector<int> strings; // one, or those that a letter may mean
    std::optional<int> fret;
    std::optional<Finger> finger; // of the fretting hand
    std::optional<Stroke> stroke;
    std::optional<Finger> either; // "index": of the one hand or of the other
    std::optional<int> bar;
    std::optional<int> last_bar;  // of "bars 3 to 5"
    std::optional<Rational> beat; // felt beats of the bar from 1: "the and of 2" is 5/2
    std::optional<int> note;      // pitch class
    std::optional<ChordTones> chord;
    std::string chord_said;
    bool chord_or_place = false;  // "A7": a chord, or the string A at fret 7
    std::vector<Stroke> strokes;  // "down, down, up": one after the other
    bool no_barre = false;        // "there is no barre"
    std::size_t from = 0, to = 0; // words

    bool ofNote() const { return !strings.empty() || fret || finger || stroke || either || note; }
    bool empty() const { return !ofNote() && !chord && strokes.empty() && !no_barre; }
};

// What that finger plucks as, on the other hand: p for the thumb, i, m, a, c.
Stroke pluckedBy(Finger finger);

// The claims of one caption or sentence, in the order of its words. Words may be garbled a little,
// said twice, or come in another order; what is corrected at once ("string 6, sorry, string 5"),
// denied ("not the third finger") or only offered ("you could …") is not claimed.
std::vector<SpokenClaim> claimsIn(const std::string& text, const Speaker& speaker);

} // namespace wirenote
