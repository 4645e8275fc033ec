// How a hand can hold stopped strings at one moment: which finger on which, and where the hand is.
#pragma once

#include "music/instrument.h"
#include "piece/note.h"

#include <span>
#include <vector>

namespace wirenote {

// What a hand can and likes to do, in nepers (differences of 1: e times less likely) and
// millimetres along the neck. Working figures of an ordinary hand, from common practice.
struct HandReach {
    // The furthest two fingers stand apart, by how many fingers they are from each other; the index
    // finger stretches further from the middle one than the others do from their neighbours.
    double neighbours_mm = 62.0;
    double index_to_middle_mm = 80.0;
    double two_apart_mm = 112.0;
    double index_to_little_mm = 150.0;
    double comfortable_mm = 95.0; // from the index to the little finger; beyond it each costs …
    double per_mm_over = 0.04;
    double index_back = 1.2;  // a fret below its place, one finger a fret
    double ahead = 0.9;       // any finger a fret above its place …
    double close = 0.35;      // … and a fret below it, where frets have to share fingers
    double little = 0.2;      // what the weakest finger costs
    double crossed = 1.2;     // of neighbours on one fret, the lower one on the thinner string
    double index_barre = 0.7; // two strings under one finger, and each further string
    double each_barred = 0.1;
    double other_barre = 1.5; // … under another finger than the index
    double rolled = 0.25;     // strings under one finger of which one alone sounds
};

struct HandShape {
    std::vector<Finger> fingers; // of each stop, as they were given
    int hand_fret = 1;           // where the index finger would play, one finger a fret
    double cost = 0.0;
};

// All ways to hold these stops (fret 1 and above, one a string), of which the first `sounding`
// sound and the others only stay where they were, while the strings in `open` (bit n: string n)
// sound open: no finger at two frets, none crossed, nothing wider than a hand, no open string under
// a barre. Cheapest first, at most 24; empty where no hand can.
std::vector<HandShape> handShapes(const Instrument& instrument,
                                  std::span<const Position> stops,
                                  std::size_t sounding,
                                  unsigned open,
                                  const HandReach& reach = {});

struct FingerAt {
    Position position;
    Finger finger = Finger::Unknown;
};
// Whether one hand can hold both at once, as far as these two tell: not one finger at two frets,
// not crossed, not wider than the hand. True where a finger is not known or a string is open.
bool heldTogether(const Instrument& instrument,
                  const FingerAt& a,
                  const FingerAt& b,
                  const HandReach& reach = {});

} // namespace wirenote
