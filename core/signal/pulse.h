#pragma once

#include "signal/spectral_flux.h"

#include <optional>
#include <vector>

namespace wirenote {

struct PulseParameters {
    std::optional<double> tempo_bpm; // given by a person; otherwise estimated
    double likeliest_bpm = 100.0;    // centre of the log-normal preference
    double preference_octaves = 0.7; // its width
    double tightness = 300.0;        // how much an uneven beat costs
};

struct Pulse {
    double tempo_bpm = 0.0; // 0 when nothing was found
    std::vector<double> beats_s;
};

// Tempo by autocorrelation of the onset strength, beats by dynamic programming
// (Ellis, "Beat tracking by dynamic programming", J. New Music Research 36, 2007).
Pulse trackPulse(const FluxTrack& flux, const PulseParameters& parameters);

} // namespace wirenote
