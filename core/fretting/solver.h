#pragma once

#include "fretting/hand_costs.h"

#include <span>
#include <vector>

namespace wirenote {

struct PlaceProbability {
    Position position;
    double probability = 0.0;
};

struct FingerProbability {
    Finger finger = Finger::Unknown;
    double probability = 0.0;
};

struct LinePlacement {
    bool possible = false;               // false: no place on this neck has the pitch
    HandState state;                     // on the cheapest way through the line
    std::vector<PlaceProbability> places;  // all of them, likeliest first
    std::vector<FingerProbability> fingers; // for the chosen place, likeliest first
};

// The cheapest way of a hand through a line (Viterbi), and the probability of each place and finger
// given the whole line (forward–backward; Rabiner, "A tutorial on hidden Markov models", Proc. IEEE 77,
// 1989). Work grows linearly with the number of notes. Notes without a place are passed over.
std::vector<LinePlacement> solveLine(const Instrument& instrument, std::span<const LineNote> line, const HandModel& model = {});

} // namespace wirenote
