// Bent strings: notes whose pitch was drawn slowly to another and perhaps let back.
#pragma once

#include "piece/note.h"

#include <vector>

namespace wirenote {

struct BendParameters {
    // A slide over frets is quicker than a bend (common practice): this slow, or this few
    // semitones a second and not at once.
    double slow_s = 0.08;
    double most_semitones_per_s = 28.0;
    double least_s = 0.045;
    double least_semitones = 0.4; // a quarter tone, heard generously
    double most_semitones = 4.2;  // two tones: beyond, strings break
    double together_s = 0.03;     // between the two halves
    double same_semitones = 0.4;  // let back to the pitch it came from
};

// How long the pitch takes from one note's to the next one's, in one go about where they meet.
double glide_s(const Note& from, const Note& to);

// Notes that were heard as slurred into each other, but whose pitch was drawn slowly upwards,
// become one note with a bend (and a release, when it comes back). The later notes are taken out;
// the note keeps the pitch it was struck at, and its curve shows the way. In order of time.
void joinBends(std::vector<Note>& notes, const BendParameters& parameters = {});

} // namespace wirenote
