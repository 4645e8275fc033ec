// Notes damped by the palm from their beginning.
#pragma once

#include "base/sound.h"
#include "piece/note.h"

#include <vector>

namespace wirenote {

// How an attack dies away in its first twentieth of a second: what is above 800 Hz, and all of it.
struct EarlyDecay {
    double upper_db = 0.0; // how much quieter after 40 ms; negative: louder
    double whole_db = 0.0;
};
EarlyDecay earlyDecay(SoundView sound, double onset_s);

// A palm on the strings takes the upper partials at once and lets the lowest ring for a moment
// (common practice among players, and plain damping: what is damped near its end loses its short
// waves first).
struct PalmMuteParameters {
    double least_upper_db = 7.0; // lost above 800 Hz …
    double least_whole_db = 1.2; // … while the whole dies away, faster than a free string …
    double most_whole_db = 11.0; // … and slower than a stopped one
    double least_room_s = 0.1;   // to the next attack, or nobody can tell
    double highest_midi = 67.0;  // at the onset; higher notes have little above them to lose
    double end_drop_db = 24.0;   // a muted note has ended this far below its peak
};

// Marks the notes of muted attacks and sets their ends. In order of time.
void markPalmMutes(SoundView sound,
                   std::vector<Note>& notes,
                   const PalmMuteParameters& parameters = {});

} // namespace wirenote
