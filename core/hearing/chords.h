#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"
#include "music/instrument.h"
#include "signal/spectral_flux.h"

#include <vector>

namespace wirenote {

struct ChordParameters {
    double event_s = 0.065; // attacks closer than this are one strum
    double window_s = 0.15; // longest stretch that is looked at after an attack
    double least_window_s = 0.07;
    double old_share = 0.75; // of what rang before, is taken from what sounds after an attack …
    double strum_old_share = 0.5; // … but in a strum, where strings that ring are struck again
    int strum_notes = 3;          // so many new notes make a strum
    double least_share = 0.20;    // of the event's strongest note; weaker ones are not believed
    double octave_share = 1.0;    // a note all of whose partials belong to a lower one is believed
                                  // when it is this strong against it …
    double strum_octave_excess = 0.5; // grips double their notes in octaves more often than not
    double octave_excess = 1.2; // … or when they stand above their neighbours by this (nepers)
    double late_s =
        0.080; // a stroke may reach its last string this long after its last clear attack
    double end_drop_db = 14.0; // a note has ended this far below its peak
};

// A note of a chord, or of several voices.
struct ChordNote {
    double onset_s = 0.0;
    double offset_s = 0.0;
    int midi = 60;           // against the reference that was given
    double share = 0.0;      // of the event's strongest note, 0..1
    double level_db = -60.0; // of its partials at their loudest
    double probability = 0.0;
};

struct ChordEvent {
    double onset_s = 0.0;
    double strength = 0.0;
    double flatness = 0.0;          // of what grew: 0 is pure tones, 1 is even noise
    bool upward = false;            // of several notes: the thin strings first …
    double order_probability = 0.5; // … as sure as this
    std::vector<ChordNote> notes;   // lowest first; at most one a string, within a hand's reach
};

// What begins at each attack: the growth of the spectrum there is explained by as few strings as
// can explain it (non-negative decomposition on partial combs of stiff strings with the
// Kullback-Leibler divergence: Lee & Seung, "Algorithms for non-negative matrix factorization",
// NIPS 2000, the templates held fixed), at most one note a string and within the reach of a hand.
// Errors: Cancelled.
Result<std::vector<ChordEvent>> hearChords(SoundView sound,
                                           const Instrument& instrument,
                                           double a4_hz,
                                           const std::vector<OnsetPeak>& onsets,
                                           const ChordParameters& parameters,
                                           const JobControl& job);

// True when these pitches can be taken at once: distinct strings, fretted notes within `reach`
// frets.
bool playableAtOnce(const Instrument& instrument, const std::vector<int>& midis, int reach = 4);

} // namespace wirenote
