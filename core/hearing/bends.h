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
    double most_pre_bend = 3.2;   // drawn unheard, it is seldom more than a tone and a half
    double together_s = 0.03;     // between the two halves
    double same_semitones = 0.4;  // let back to the pitch it came from
};

// How long the pitch takes from one note's to the next one's, in one go about where they meet.
double glide_s(const Note& from, const Note& to);

// Notes that were heard as slurred into each other, but whose pitch was drawn slowly upwards,
// become one note with a bend (and a release, when it comes back). The later notes are taken out;
// the note keeps the pitch it was struck at, and its curve shows the way. A pitch that is let down
// slowly was drawn before it was struck. In order of time.
void joinBends(std::vector<Note>& notes, const BendParameters& parameters = {});

struct DrawnParameters {
    double settle_s = 0.03;         // after the attack the pitch is not yet the finger's
    double level_s = 0.06;          // the pitch counts when it stays about as long as this
    double least_up_cents = 38.0;   // a curl of a quarter tone, heard generously
    double least_down_cents = 70.0; // hard strokes fall by 20 cents or so on their own
    double most_cents = 330.0;
    double back = 0.35;  // let back when no more than this share of the way is left
    double swings = 1.6; // vibrato does not count until this many times its width
};

// Bends and pre-bends drawn so slowly that nothing was cut: the pitch of one note settles on
// another level.
void markDrawn(Note& note, const DrawnParameters& parameters = {});
void markDrawn(std::vector<Note>& notes, const DrawnParameters& parameters = {});

} // namespace wirenote
