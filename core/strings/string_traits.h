// How stiff each string of this very instrument is, and what a note's stiffness says of its place.
#pragma once

#include "piece/piece.h"

#include <span>
#include <vector>

namespace wirenote {

struct TraitModel {
    // How far a string may differ from what its gauge and material say (standard deviation of the
    // logarithm): plain strings are what they are, wound ones differ from make to make.
    double plain_sd = 0.12;
    double wound_sd = 0.45;
    double wound_nylon_sd = 0.8;
    // Strings of one set are made alike: how far one of them differs from what the set does.
    double within_set_sd = 0.12;
    // What it costs to believe that a whole set is otherwise than stated, at most, and the nepers
    // over which that grows.
    double odd_set_nepers = 8.0;
    double odd_set = 0.6;
    double widest_set = 1.6; // how far whole sets are looked for, nepers either way …
    double set_step = 0.1;   // … in these steps
    double note_sd = 0.06;   // from note to note of one string
    double tails = 4.0;      // degrees of freedom of Student's t when traits are learned
    // A measure may be of something else altogether: how often when it is sharp, how much more
    // often for each neper of its deviation, and within how many nepers it then lies.
    double astray = 0.02;
    double astray_per_sd = 0.6;
    double astray_among = 0.12; // … and more while other strings sound
    double most_astray = 0.5;
    double anywhere_nepers = 10.0;
    double weight = 0.8;      // of the evidence against playability
    double most_nepers = 9.0; // nothing that one note says is worth more
    int rounds = 4;
};

// What is known before anything was heard: the stated gauges.
std::vector<StringTrait> statedTraits(const Instrument& instrument, const TraitModel& model = {});

// How stiff a pitch is expected to sound on a string that has it.
struct ExpectedStiffness {
    Position place;
    double log_b = 0.0;
    double sd = 0.0;
};
// For each string that has the pitch, the thinnest first; empty when nothing is known of the
// strings.
std::vector<ExpectedStiffness> expectedStiffness(const Instrument& instrument,
                                                 const std::vector<StringTrait>& traits,
                                                 int midi,
                                                 const TraitModel& model = {});

// What the stiffness of a note costs each string (index 0 is string 1) for this pitch: negative
// log-likelihood, 0 for the string that fits best. B of a string stopped at fret n is
// B_open·2^(n/6) (Fletcher, see music/string_physics.h). Empty when the note's stiffness says
// nothing.
std::vector<double> stiffnessCosts(const Instrument& instrument,
                                   const std::vector<StringTrait>& traits,
                                   const HeardStiffness& heard,
                                   int midi,
                                   const TraitModel& model = {});

// What is known once the notes were heard, before any of them is placed: how much stiffer the wound
// strings of the set are than stated, all together and each a little by itself, whichever explains
// the stiffness of all notes best. `shares[i][string − 1]`: how far each string is expected before
// its stiffness is looked at. Strings a fourth apart whose set is stiffer sound as the next lower
// ones of another set would, and a search that begins at the stated gauges can end there. What was
// set stays.
std::vector<StringTrait> setTraits(const Instrument& instrument,
                                   std::span<const Note> notes,
                                   const std::vector<StringTrait>& known,
                                   const std::vector<std::vector<double>>& shares,
                                   const TraitModel& model = {});

// The traits that agree best with the notes, when each note is on its strings with these
// probabilities (one expectation-maximisation step: Dempster, Laird & Rubin, J. R. Stat. Soc. B 39,
// 1977): what was expected (statedTraits or setTraits) counts as an observation too.
// `probabilities[i][string − 1]`. Of what was known, traits that were set stay.
std::vector<StringTrait> learnedTraits(const Instrument& instrument,
                                       std::span<const Note> notes,
                                       const std::vector<StringTrait>& known,
                                       const std::vector<StringTrait>& expected,
                                       const std::vector<std::vector<double>>& probabilities,
                                       const TraitModel& model = {});

} // namespace wirenote
