#pragma once

#include "music/instrument.h"
#include "piece/piece.h"

#include <string>
#include <vector>

namespace wirenote {

// A way the instrument may be tuned, with how likely it is and what speaks for it.
struct TuningGuess {
    std::string name;      // "standard", "dropped-low-string" …: a word of kTuningNames
    Instrument instrument; // tuned, with capo
    double probability = 0.0;
    int lowest_midi = 0; // of what was heard
    int open_notes = 0;  // of the heard notes are its open strings
    int off_neck = 0;    // are not on its neck at all, what sounds lower than that of now counted in
    int notes = 0;
};

// The named tunings that fit this kind of instrument, as instruments.
std::vector<TuningGuess> namedTunings(const Instrument& like);

// Guesses tuning and capo from what was heard: notes below the lowest string rule a tuning out, low
// and open strings are used most, and open strings ring on. Where more than a few strokes sound
// lower than the neck (`misses`, hearing/below_neck.h), other kinds of instrument are thought of
// too. Likeliest first; empty without notes.
std::vector<TuningGuess> guessTuning(const Instrument& like,
                                     const std::vector<Note>& notes,
                                     const std::vector<NearMiss>& misses = {});

} // namespace wirenote
