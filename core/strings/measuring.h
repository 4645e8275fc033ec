// What the sound of a note says of the string it was played on.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"
#include "piece/note.h"
#include "signal/stiffness_meter.h"

#include <vector>

namespace wirenote {

// Measures the stiffness of the string behind each note and its tone, where its sound allows; notes
// that sound together are kept apart by their partials. `notes` in order of time, `sound` mono.
// Errors: Cancelled.
Status
measureStrings(SoundView sound, double a4_hz, std::vector<Note>& notes, const JobControl& job);

// How the partials of one of the notes fit a stiff string: what measureStrings went by.
StiffnessFit
fitPartials(SoundView sound, double a4_hz, const std::vector<Note>& notes, std::size_t index);

} // namespace wirenote
