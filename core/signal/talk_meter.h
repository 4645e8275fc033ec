// How much of a sound is somebody talking, moment by moment.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"

#include <array>
#include <vector>

namespace wirenote {

constexpr std::size_t kTalkFigures = 16;
using TalkFigures = std::array<float, kTalkFigures>;

// What tells talk from strings, about each moment (half a second each way, where there is sound):
// how far the partials of now are those of a tenth and a fifth of a second ago (strings keep them),
// how far they are the same but moved by a quarter tone or two (a voice glides), how much hiss
// there is above 4 kHz, where the middle of the spectrum lies, how sharp its peaks are, how the
// level rises and falls, and how these scatter.
struct TalkFrames {
    double hop_s = 0.0; // frame i is about i·hop_s
    std::vector<TalkFigures> figures;
    std::vector<float> level_db;
    std::vector<bool> sounds; // within 35 dB of the loud moments
};

// `sound` is mono at 22050 Hz. Errors: Cancelled. Empty for less than half a second.
Result<TalkFrames> talkFrames(SoundView sound, const JobControl& job);

// The logarithm of the odds that such a moment is talk; learned by tools/training/learn_talk.py
// (a small network) from recorded speech, synthetic voices, and playing, also made worse on
// purpose (decision 0033).
double talkOdds(const TalkFigures& figures);
// The same of somebody talking over playing, where it is one or the other or both; learned by
// tools/training/learn_over.py (decision 0035).
double talkOverOdds(const TalkFigures& figures);

} // namespace wirenote
