// SIMULATED: one plucked string, from its build. Nothing here is used to analyse a recording.
#pragma once

#include "music/instrument.h"

#include <span>
#include <vector>

namespace wirenote {

enum class Tool { Pick, Finger };
enum class Excitation { Plucked, Hammered };

struct PitchMove {
    double time_s = 0.0;    // from the start of the note
    double semitones = 0.0; // away from the note's own pitch; between two moves it changes evenly
};

struct StringNote {
    Position position;
    double length_s = 1.0;
    double velocity = 0.7; // 0..1
    Tool tool = Tool::Pick;
    Excitation excitation = Excitation::Plucked;
    int harmonic = 1;             // k: touched over the node of partial k, others are stifled
    double palm = 0.0;            // 0 free … 1 the palm lies on the string at the bridge
    bool damped = false;          // by the fretting hand: noise, hardly any pitch
    double pluck_share = 0.17;    // how far from the bridge it is plucked, as a share of the scale
    std::vector<PitchMove> moves; // slides, bends, vibrato; by rising time
};

// Adds the note to `out` from out[0] on. Its partials follow f_n = n·f0·√(1 + B·n²) with B from
// gauge, material and sounding length, in two planes of vibration that differ a little in pitch and
// decay (modal synthesis of a stiff string: Fletcher & Rossing, "The Physics of Musical
// Instruments", ch. 2 and 9). Stops where `out` ends. Sounds for length_s, then is damped within 30
// ms.
void addStringNote(const Instrument& instrument,
                   const StringNote& note,
                   double a4_hz,
                   double rate_hz,
                   std::span<float> out);

} // namespace wirenote
