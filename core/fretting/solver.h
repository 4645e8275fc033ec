#pragma once

#include "hand/hand_costs.h"

#include <span>
#include <vector>

namespace wirenote {

struct PlaceProbability {
    Position position;
    double probability = 0.0;
};

struct LinePlacement {
    bool possible = false;                // false: no place on this neck has the pitch, …
    bool out_of_hand = false;             // … or no hand takes it with the others of its stroke
    HandState state;                      // on the cheapest way through the line
    std::vector<PlaceProbability> places; // all of them, likeliest first
};

// The cheapest way of a hand through a line (Viterbi, "Error bounds for convolutional codes", IEEE
// Trans. Inf. Theory 13, 1967). The probability of a place compares the best way through it with
// the best way through each of its rivals (max-marginals), so that the chosen place is always the
// likeliest; a sum over all ways would favour places that merely allow many hand positions. Work
// grows linearly with the number of notes. Notes without a place are passed over.
std::vector<LinePlacement> solveLine(const Instrument& instrument,
                                     std::span<const LineNote> line,
                                     const HandModel& model = {});

} // namespace wirenote
