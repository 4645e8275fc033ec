#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"

#include <vector>

namespace wirenote {

struct PitchCandidate {
    float f0_hz = 0.0F;
    float clarity = 0.0F; // 1 − normalised difference at the dip: 1 is perfectly periodic
};

struct PitchCandidates {
    double hop_s = 0.0;
    double first_s = 0.0;                            // time of the middle of the first frame
    std::vector<std::vector<PitchCandidate>> frames; // likeliest first, at most `most`
};

struct YinParameters {
    double lowest_hz = 70.0;
    double highest_hz = 1500.0;
    double hop_s = 0.01;
    double periods = 2.2; // length of the compared stretch, in periods of the lowest pitch
    float least_clarity = 0.35F;
    int most = 4;
};

// Candidates for the one pitch of each frame: dips of the cumulative-mean-normalised difference
// function (de Cheveigné & Kawahara, "YIN, a fundamental frequency estimator for speech and music",
// J. Acoust. Soc. Am. 111, 2002, steps 1 to 5), several dips kept so that a later stage can choose
// with context.
Result<PitchCandidates>
yinCandidates(SoundView sound, const YinParameters& parameters, const JobControl& job);

} // namespace wirenote
