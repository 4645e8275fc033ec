#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"

#include <vector>

namespace wirenote {

struct MatchingMoment {
    double a_s = 0.0;
    double b_s = 0.0;
};

// The same music in two recordings.
struct AlignmentFit {
    std::vector<MatchingMoment> moments; // rising in both; empty: nothing matches
    double certainty = 0.0;              // 0..1
    int semitones = 0; // how much higher b sounds, −6..5 (another tuning, a capo, another key)
};

// Where in b the music of a is, at any tempo from half to double, from any place to any other, and
// however transposed. Local alignment of chroma on a coarse grid (Smith & Waterman's recursion),
// refined by dynamic time warping of chroma and onset chroma in a band about it (Ewert, Müller &
// Grosche 2009), and at last by the attacks of both. Errors: Cancelled.
Result<AlignmentFit>
alignSounds(SoundView a, double a_a4_hz, SoundView b, double b_a4_hz, const JobControl& job);

} // namespace wirenote
