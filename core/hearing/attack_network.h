#pragma once

#include "hearing/attack_picture.h"

#include <array>

namespace wirenote {

constexpr int kNetworkLowestMidi = 23; // B0
constexpr int kNetworkPitches = 66;    // up to E6

struct PitchBelief {
    double begins = 0.0;  // the probability that this pitch is struck at the attack
    double sounds = 0.0;  // … that it sounds a tenth of a second later, struck now or before
    double slurred = 0.0; // … that it is hammered, pulled off or slid to, if it begins
};

// What begins and what sounds at an attack, pitch by pitch from kNetworkLowestMidi on. A small
// convolutional network over pitch: the same weights look at the harmonics of each pitch in the
// spectra about the attack and at those of the pitches whose harmonics these could be, then at the
// pitches beside it and those that share harmonics with it. Learned from invented takes by
// tools/training/learn_attacks.py (docs/attack-network.md).
std::array<PitchBelief, kNetworkPitches> believe(const AttackPicture& picture);

} // namespace wirenote
