// What the strokes of each school cost a plucking hand: one place for every figure.
#pragma once

#include "piece/reading.h"

namespace wirenote {

// Costs of one pick-stroke, in nepers (differences of 1: e times less likely), from common
// practice.
struct PickModel {
    double metre = 1.5; // up where the beat has it down, or the other way round

    double turn = 0.3;      // the same way as the stroke before, …
    double turn_free = 1.5; // … where no beat says anything (triplets, no beats)
    double start_up = 0.8;  // a phrase begins with an up-stroke, where no beat says anything
    double onto_beat = 0.3; // a beat of triplets up
    double crossing = 0.0; // to the neighbouring string against the way the hand goes over them, …
    double crossing_turned = 0.9; // … or having turned round for it
    double crossing_sweep = 0.0;  // … in a run of three and more, one note a string
    double up = 0.0;              // an up-stroke at all
};

PickModel pickModel(PluckingSchool school);

// The same for the fingers.
struct FingerModel {
    double thumb_on_fourth = 0.1; // of six strings; on the third, second and first it costs …
    double thumb_high = 1.6;      // … once, twice, three times
    double finger_on_bass = 2.6;  // a finger on the fifth and sixth string, and on the fourth …
    double finger_on_fourth = 0.9;
    double finger_in_run = 0.25; // … factor, where they follow too fast for the thumb
    double tremolo = 2.5;        // a note of one by another finger than a, m, i in turn
    double habit = 1.1; // each finger away from the one whose string it is, among ringing notes
    double habit_alone = 0.12; // … in a tune
    double again = 1.6;        // the same finger twice at once …
    double again_slow = 0.6;   // … and slowly
    double again_held = 0.3;   // … factor, where others struck between and the notes ring
    double ring_in_tune = 0.8; // the ring finger, the little finger
    double little = 3.0;
    double start_middle = 0.25; // a phrase begins with the middle finger
    double downbeat_middle = 0.12;
    double awkward = 0.04;    // over to the other string against the order of the fingers
    double thumb_again = 1.4; // the thumb faster than it goes alone, at half that time
    double thumb_fast_s = 0.16;
    double thumb_swap = 0.8;     // from thumb to fingers and back on the thick strings
    double thumb_off_beat = 0.0; // … above the bass strings, off the beat
    double finger_on_beat = 0.0; // alone on the third string, on the beat
    double thumb_two = 1.0;      // one thumb over two strings
    bool thumb_has_bass = true;  // else index and middle play on all strings
    int first = 0, second = 1;   // of i, m, a: the two that take turns
};

FingerModel fingerModel(PluckingSchool school, bool bass);

} // namespace wirenote
