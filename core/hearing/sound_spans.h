// What is going on when in a take.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"
#include "piece/take.h"

#include <vector>

namespace wirenote {

// The spans of a take, one after the other without gaps: playing, talk, talk over playing, silence.
// The likeliest way through two states (talk or not, and where it is not, whether somebody talks
// over it) by what each moment sounds like (signal/talk_meter), where a change costs more than a
// doubtful moment; stretches in which nothing sounds for longer than a
// breath are silence. `sound` is mono at kAnalysisRateHz; times count from its start. Errors:
// Cancelled. Empty for less than half a second.
Result<std::vector<SoundSpan>> soundSpans(SoundView sound, const JobControl& job);

// Silence where somebody talks or counts in and where there is noise, so that nothing is heard in
// it; the edges fade.
void muteTalk(const std::vector<SoundSpan>& spans, Sound& sound);

} // namespace wirenote
