// How a hand can hold stopped strings at one moment: which finger on which, and where the hand is.
#pragma once

#include "hand/hand_model.h"
#include "music/instrument.h"
#include "piece/note.h"

#include <span>
#include <vector>

namespace wirenote {

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
