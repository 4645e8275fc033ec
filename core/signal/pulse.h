#pragma once

#include "signal/spectral_flux.h"

#include <optional>
#include <vector>

namespace wirenote {

struct PulseParameters {
    std::optional<double> tempo_bpm; // given by a person; otherwise estimated
    double likeliest_bpm = 100.0;    // centre of the log-normal preference
    double preference_octaves = 0.7; // its width
    double tightness = 12.0;         // how much a beat off the tempo of the whole costs …
    double unsteady = 0.35; // … a tempo that changes by a fiftieth from one beat to the next …
    double clearly_slower = 1.15; // so much better marked must beats at half the tempo be
    double shaky = 0.25;          // … and a beat a frame off it
};

struct Pulse {
    double tempo_bpm = 0.0; // 0 when nothing was found
    std::vector<double> beats_s;
};

// Tempo by autocorrelation of the onset strength, beats by dynamic programming (Ellis, "Beat
// tracking by dynamic programming", J. New Music Research 36, 2007), over the tempo as well, so
// that it may drift by a quarter each way (as in Klapuri, Eronen & Astola, IEEE Trans. ASLP 14,
// 2006).
Pulse trackPulse(const FluxTrack& flux, const PulseParameters& parameters);

} // namespace wirenote
