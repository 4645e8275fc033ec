// Which of the notes heard while somebody talks over the playing are the voice's.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"
#include "piece/note.h"
#include "piece/take.h"
#include "signal/talk_meter.h"

#include <array>
#include <span>
#include <vector>

namespace wirenote {

constexpr std::size_t kVoiceFigures = 16;
using VoiceFigures = std::array<float, kVoiceFigures>;

// What tells a voice from a string about each note: how surely and how sharply it begins, how loud
// and long it is against those about it, how its partials rise at its onset, stay where they are
// and die away, and how much the moments about it sound like talk. `sound`: what the notes were
// heard in, mono; `a4_hz` its reference.
std::vector<VoiceFigures>
voiceFigures(SoundView sound, double a4_hz, const TalkFrames& frames, std::span<const Note> notes);

// The probability (0..1) that a note heard under talk is the voice's; learned by
// tools/training/learn_over.py from takes with recorded talk over them (decision 0035).
double voiceProbability(const VoiceFigures& figures);

// Under talk (spans of it, in seconds of the sound) notes are believed as much as they deserve, and
// those that are rather the voice's are left out. Errors: cancelled.
Status leaveVoiceOut(SoundView sound,
                     double a4_hz,
                     const std::vector<SoundSpan>& spans,
                     std::vector<Note>& notes,
                     const JobControl& job);

} // namespace wirenote
