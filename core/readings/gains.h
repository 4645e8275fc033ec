// What one way of playing a passage gains and loses against another.
#pragma once

#include "music/instrument.h"
#include "piece/reading.h"

#include <string>
#include <vector>

namespace wirenote {

enum class GainKind {
    Shifts,    // millimetres that the hand goes along the neck
    Stretch,   // millimetres between the outermost fingers, at the widest
    Barre,     // seconds that a barre is held, at the longest
    Ringing,   // open strings that ring by themselves, and notes that are not cut off
    Tone,      // a thinner, brighter string (loss: a thicker, rounder one)
    Ease,      // how many times faster it could be played
    Crossing,  // strings that the plucking hand crosses
    Legato,    // notes that are slurred
    FewerNotes // notes to be played
};

// `a` and `b`: the figure in the one and in the other.
struct Gain {
    GainKind kind = GainKind::Shifts;
    double a = 0.0;
    double b = 0.0;
    bool operator==(const Gain&) const = default;
};

struct GainsAndLosses {
    std::vector<Gain> gains;  // where b is better for the player or the sound
    std::vector<Gain> losses; // where a is
    bool operator==(const GainsAndLosses&) const = default;
};

// A passage on an instrument.
struct Passage {
    const Instrument& instrument;
    Rows rows;
};

// What b gains and loses against a over a span (seconds). Both passages reach a little beyond it on
// either side. Differences that nobody would feel do not count: working figures, common practice.
GainsAndLosses gainsAndLosses(const Passage& a, const Passage& b, TimeRange span);

std::string gainText(const Gain& gain); // of a gain: "45 mm less to move"
std::string lossText(const Gain& loss);

} // namespace wirenote
