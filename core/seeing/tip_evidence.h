// What fingertips over the neck say about the string behind a note.
#pragma once

#include "piece/seen.h"
#include "piece/string_evidence.h"
#include "seeing/neck_plane.h"

#include <array>
#include <span>
#include <vector>

namespace wirenote {

// How far from where a finger would press this place the nearest fingertip was, in nepers: 0 where
// one is there, at most kFarthestTip. An open string needs none: kOpenSeen, whatever was seen.
constexpr double kFarthestTip = 5.0;
constexpr double kOpenSeen = 1.5;
double tipCost(const NeckPlane& plane, std::span<const SeenTip> tips, Position place);

// For each string that has the pitch, in the measure that the film is trusted.
StringEvidence
tipEvidence(const Instrument& instrument, const NeckPlane& plane, const SeenFacts& seen, int midi);

// What speaks against each finger, index to little, where the note is pressed on each string: how
// far along the neck the tips with a number lie from where it would press, whatever string they are
// over (a barre has its tip elsewhere), as far as the film is trusted. Nothing without two of them.
std::vector<std::array<double, 4>>
fingerEvidence(const Instrument& instrument, const SeenFacts& seen, int midi);

// How far fingertips fit notes better than chance (0..1): `fits` are the costs of the best place of
// each note at its own time, `by_chance` of as many notes at others' times. A film of something
// else fits no better than chance.
double tipTrust(std::span<const double> fits, std::span<const double> by_chance);

} // namespace wirenote
