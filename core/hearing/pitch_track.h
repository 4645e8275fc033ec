#pragma once

#include "signal/yin.h"

#include <vector>

namespace wirenote {

struct PitchFrame {
    float midi = 0.0F;    // against A4 = 440 Hz; meaningless when not voiced
    float clarity = 0.0F; // 0 when not voiced
    bool voiced() const { return clarity > 0.0F; }
};

struct PitchTrack {
    double hop_s = 0.01;
    double first_s = 0.0;
    std::vector<PitchFrame> frames;

    double timeOf(std::size_t frame) const { return first_s + static_cast<double>(frame) * hop_s; }
    // Index of the first frame at or after the time, at most frames.size().
    std::size_t frameFrom(double time_s) const;
};

struct TrackParameters {
    double jump_cost = 0.9;       // for a leap of an octave; smaller leaps cost in proportion
    double octave_cost = 0.25;    // on top, for a leap of just one octave: mostly a mistake
    double unvoiced_score = 0.40; // what "no pitch" earns a frame
    double voicing_cost = 0.25;   // for starting or ending a voiced stretch
    double low_pitch_bias =
        0.005; // a longer period fits at least as well: prefer the shorter, per semitone
};

// One pitch a frame, chosen over the whole take by dynamic programming over the candidates
// (the smoothing of Mauch & Dixon, "pYIN", ICASSP 2014, with costs in place of probabilities).
PitchTrack smoothPitch(const PitchCandidates& candidates, const TrackParameters& parameters);

} // namespace wirenote
