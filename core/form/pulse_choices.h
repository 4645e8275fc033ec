// What else the pulse may be: at which level the beat is felt, the metre, where bars begin.
#pragma once

#include "piece/piece.h"

#include <vector>

namespace wirenote {

struct PulseChoice {
    Timeline timeline; // all of it, as it would be
    double probability = 0.0;
    bool now = false; // as it stands
};

// Each gives the choices likeliest first, the present one among them; probabilities add up to 1.
// Empty where there is nothing to choose: too few beats or notes, or changes of metre that a person
// made.

// Levels of the beat (form/beat_levels): the present one, and others with their likeliest phase.
std::vector<PulseChoice> tempoChoices(const std::vector<Note>& notes, const Timeline& timeline);

// How beats make bars, by how accents return (form/metre_guess): 4/4, 3/4, 5/4 or 7/8; 6/8, 9/8 or
// 12/8 where the level is compound.
std::vector<PulseChoice> metreChoices(const std::vector<Note>& notes, const Timeline& timeline);

// Which beat is "one" (form/downbeats), or whether the beats lie half a beat off.
std::vector<PulseChoice> oneChoices(const std::vector<Note>& notes, const Timeline& timeline);

} // namespace wirenote
