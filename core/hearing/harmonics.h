// Natural harmonics: a string touched over a node instead of pressed to a fret.
#pragma once

#include "base/sound.h"
#include "music/instrument.h"
#include "piece/note.h"

#include <vector>

namespace wirenote {

struct HarmonicParameters {
    double look_s = 0.085; // after the attack the string's lower partials are still there …
    double later_s = 0.22; // … and here the touching finger has taken them away
    double least_remnant_db = 9.0; // of a lower partial above what is beside it, at first …
    double least_fall_db = 18.0;   // … how much more it falls than the note itself …
    double below_note_db = 30.0;   // … and no further below the note's own than this
    double least_growth_db = 12.0; // at the attack; or it is another note that rings on
    double over_body_db = 12.0;    // what other attacks leave there, which is the body's
    double least_length_s = 0.3;
};

// Marks notes of one line as natural harmonics. A finger laid on the node of partial k lets the
// partials k, 2k, 3k … ring and stifles the others within some hundredths of a second (Fletcher &
// Rossing, "The Physics of Musical Instruments", ch. 9); of a pressed string those others were
// never there. So a note is a harmonic when, at its attack, partials of an open string below it
// stand out that are gone soon after, and that no other attack leaves. `sound` is the take, a4_hz
// its reference.
void markHarmonics(SoundView sound,
                   const Instrument& instrument,
                   double a4_hz,
                   std::vector<Note>& notes,
                   const HarmonicParameters& parameters = {});

} // namespace wirenote
