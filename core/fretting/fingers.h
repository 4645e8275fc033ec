// Which finger takes each note, once the places are known.
#pragma once

#include "hand/hand_shapes.h"
#include "piece/reading.h"

#include <vector>

namespace wirenote {

// What moving the hand and its fingers costs, in nepers; working figures from common practice.
struct FingerModel {
    double usual_grip = 3.0;    // the fingers that teachers show for a grip, against others
    double shift = 0.8;         // the hand moves at all, …
    double per_fret = 0.12;     // … each fret,
    double hurry_s = 0.08;      // twice as dear in so short a time
    double open_eases = 0.55;   // factor, when an open string gives time
    double open_position = 0.5; // a line among open strings, low on the neck, elsewhere
    double hop = 1.0;           // a finger goes to another place at once, …
    double roll = 0.25;         // … or to the next string on its fret
    double refingered = 1.0;    // another finger on what the last one held or just left
    double slur_wrong_finger = 1.5;
    double cut_off = 3.0; // a note that rings is let go
    double let_go = 0.3;  // a finger leaves a place that comes again
    double bend_by_index = 1.2;
    double bend_by_other = 0.4; // … than the ring finger
    double temperature = 0.35;  // below 1: trusts the costs more
    // How often such a choice is right, as the log odds of what the costs say: chosen with thirteen
    // takes of both kinds in sight, as are the figures above with eight and five of them.
    double log_odds = 1.6;
    double per_log_odds = 0.26;
};

struct FingerChoice {
    Finger finger = Finger::Unknown; // Open for open strings; Unknown where no hand can take it
    int hand_fret = 0;
    std::vector<RunnerUp<Finger>> others; // likeliest first
    double probability = 0.0;
    std::vector<Reason> reasons; // one, where it is a finger or no hand can take it
};

// For each note of `rows`, by its place: the cheapest way of a hand through all of them (Viterbi),
// where at every attack it holds what begins, what still rings and what comes again soon on a
// string that nothing else needs. Fingers that a person set stay. Work grows linearly with the
// notes.
std::vector<FingerChoice>
chooseFingers(const Instrument& instrument, const Rows& rows, const FingerModel& model = {});

} // namespace wirenote
