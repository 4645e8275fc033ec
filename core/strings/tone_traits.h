// What the tone of each string is like in this take, and what a note's tone says of its place.
#pragma once

#include "piece/piece.h"
#include "piece/string_evidence.h"

#include <vector>

namespace wirenote {

struct ToneModel {
    double least_notes = 8.0; // that tell a figure, before anything is learned from them
    double least_gain = 0.02; // nepers a note by which the figure must speak for the right string
    // Against playability. The two losses of a note depend on each other; how bright it is depends
    // on how it was struck.
    double decay_weight = 0.5;
    double comb_weight = 0.8;
    double tilt_weight = 0.4;
    double most_nepers = 4.0;  // nothing that one figure of one note says is worth more
    double tails = 4.0;        // degrees of freedom of Student's t
    double highest_comb = 0.4; // beyond this share of the string a comb folds back at the middle
    int rounds = 8;
};

// What the tone of a note speaks for and against, one entry for each kind of evidence that is told
// and of use: DecayFits, CombFits, TiltFits. Costs are negative log-likelihoods, 0 for the string
// that fits best.
std::vector<StringEvidence> toneEvidence(const Instrument& instrument,
                                         const std::vector<StringTrait>& traits,
                                         const Note& note,
                                         const ToneModel& model = {});

// The traits with each string's tone as the notes have it, when each note is on its strings with
// these probabilities ([note][string − 1]): a line over the frets for each string, whose slope all
// strings share, as they share what a finger on them takes away and how much brighter they are when
// struck harder; pulled towards what is common to all. A figure that does not tell the strings
// apart (each note judged by what the others say) is switched off. Losses of calibrated strings
// stay as they were measured; combs and tilt depend on the day and are learned anew.
std::vector<StringTrait> withTone(const Instrument& instrument,
                                  const Rows& rows,
                                  std::vector<StringTrait> traits,
                                  const std::vector<std::vector<double>>& probabilities,
                                  const ToneModel& model = {});

} // namespace wirenote
