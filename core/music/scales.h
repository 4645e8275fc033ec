// Keys and scales.
#pragma once

#include "music/pitch.h"

#include <array>
#include <string>
#include <vector>

namespace wirenote {

// How much of each pitch class sounds (0 = C), in any unit.
using PitchClasses = std::array<double, 12>;

struct KeyGuess {
    int tonic = 0; // pitch class
    bool minor = false;
    double fit = 0.0; // correlation with the profile, −1..1
    bool operator==(const KeyGuess&) const = default;
};

// All 24 keys, the best first: correlation with the probe-tone profiles of Krumhansl & Kessler,
// "Tracing the dynamic changes in perceived tonal organization", Psychological Review 89, 1982
// (their figures, quoted from memory). Empty when nothing sounds.
std::vector<KeyGuess> keysOf(const PitchClasses& weights);

enum class ScaleKind {
    Major,
    NaturalMinor,
    HarmonicMinor,
    Dorian,
    Phrygian,
    Lydian,
    Mixolydian,
    MajorPentatonic,
    MinorPentatonic,
    Blues
};

struct Scale {
    int tonic = 0; // pitch class
    ScaleKind kind = ScaleKind::Major;
    bool has(int midi) const;
    bool operator==(const Scale&) const = default;
};

// Semitones above the tonic, rising.
const std::vector<int>& scaleSteps(ScaleKind kind);

// The smallest usual scale on the key's tonic that holds (nearly) all that sounds, of equals the
// plainest; where none does, the one that holds most. With fewer than four pitch classes a full
// scale is named: a triad is no pentatonic.
Scale scaleOf(const PitchClasses& weights, const KeyGuess& key);

// "A", "B♭": a pitch class as the spelling has it.
std::string pitchClassName(int pitch_class, Spelling spelling);

} // namespace wirenote
