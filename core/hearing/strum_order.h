#pragma once

#include "base/sound.h"
#include "base/time_range.h"

#include <vector>

namespace wirenote {

// One note of a stroke: where its partials are.
struct StrokeNote {
    double f0_hz = 110.0;
    double stiffness = 0.0; // inharmonicity B
};

// How one stroke crosses its strings.
struct StrokeOrder {
    std::vector<double> onsets_s; // of each note, as given
    bool upward = false;          // the thin strings first
    double probability = 0.5;     // that it was this way round
};

// When each note of one stroke begins, to a few milliseconds: a pick crosses the strings one after
// the other. For each note, those of its partials that no other note has are brought down to zero
// frequency; a note begins where they change most between the stretch before and the stretch after
// (complex-domain novelty: Duxbury, Bello, Davies and Sandler, "Complex domain onset detection for
// musical signals", DAFx 2003; here for one partial at a time, so that a string struck while it
// rings counts too). Single notes are too unsure in a full chord, so an even crossing is fitted to
// all of them together, either way, and each note moved a little from there. `notes` from the
// lowest to the highest, at least two; `first_s` and `clear_s` are the first and the last clear
// attack in it, `last_s` is until when notes may begin.
StrokeOrder strokeOrder(SoundView sound,
                        const std::vector<StrokeNote>& notes,
                        double first_s,
                        double clear_s,
                        double last_s);

} // namespace wirenote
