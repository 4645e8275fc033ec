#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"
#include "piece/note.h"

#include <vector>

namespace wirenote {

// How bright the stroke itself sounds, for each struck note: what lies in a high band of its first
// 46 ms, in dB of all below 10 kHz. A pick is hard and narrow and leaves more of the high partials
// than flesh does (Fletcher & Rossing, "The Physics of Musical Instruments", ch. 9, from memory).
// The band is 2.5 to 6 kHz, on a bass 1 to 2.5 kHz. Writes HeardAttack::edge_db; slurred notes and
// sounds that end below the band have none. `notes` in order of time, `sound` mono. Errors:
// Cancelled.
Status
measureEdges(SoundView sound, bool bass, std::vector<Note>& notes, const JobControl& job);

} // namespace wirenote
