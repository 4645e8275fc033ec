#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"

#include <array>
#include <vector>

namespace wirenote {

using Chroma = std::array<float, 12>; // by pitch class, C first

// What is sounding (centred about 0, length 1, or all 0 in silence) and what is beginning (≥ 0,
// against the loudest beginning nearby), by pitch class.
struct ChromaTrack {
    double hop_s = 0.02;
    std::vector<Chroma> sounding;
    std::vector<Chroma> beginning;
};

// Chroma with logarithmic compression, and decaying locally normalised onset chroma (Ewert, Müller
// & Grosche, "High resolution audio synchronization using chroma onset features", ICASSP 2009).
// Frame i describes the sound about i·hop_s. Errors: Cancelled.
Result<ChromaTrack> chromaOf(SoundView sound, double a4_hz, const JobControl& job);

// How alike two are: −1 to 1.
double alike(const Chroma& a, const Chroma& b, int semitones_up = 0);

} // namespace wirenote
