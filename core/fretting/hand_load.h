// How hard a passage is for the fretting hand, in units.
#pragma once

#include "base/time_range.h"
#include "hand/hand_model.h"
#include "music/instrument.h"
#include "piece/reading.h"

#include <vector>

namespace wirenote {

// What makes a transition slow.
enum class Hurdle { None, Shift, SameFinger, Stretch, Barre };

// From one attack to the next.
struct HandTransition {
    NoteId note = 0; // the first of the attack that is reached
    double onset_s = 0.0;
    double gap_s = 0.0;
    double shift_mm = 0.0;   // how far the hand goes along the neck
    double stretch_mm = 0.0; // between the outermost fingers that are down
    double needs_s = 0.0;    // how long an ordinary hand takes, at the least
    Hurdle hurdle = Hurdle::None;
};

// What a span of time asks of the hand.
struct HandLoad {
    double shifts_per_s = 0.0;
    double shifted_mm = 0.0;
    double widest_mm = 0.0;
    double soonest_again_s = 0.0; // until the same finger is wanted elsewhere; 0: never
    double longest_barre_s = 0.0; // held without a break
    int strings_crossed = 0;
    HandTransition hardest; // of those with a hurdle; note 0: none
    double top_tempo = 0.0; // how many times faster it could go; 0: nothing limits it
    bool strains = false;   // a long barre or a wide stretch
};

// Every transition of a reading with its places and fingers, in order. How long a hand needs:
// working figures from common practice.
std::vector<HandTransition>
handTransitions(const Instrument& instrument, const Rows& rows, const HandReach& reach = {});

// What a span (seconds of the piece) asks: of the transitions that end in it.
HandLoad handLoad(const Instrument& instrument,
                  const Rows& rows,
                  TimeRange span,
                  const HandReach& reach = {});

} // namespace wirenote
