#pragma once

#include "base/sound.h"
#include "hearing/chords.h"
#include "hearing/local_tuning.h"

namespace wirenote {

// Finds when each note of the events stops: its partials have fallen by end_drop_db from their
// loudest, and did so at once (a string that dies away by itself is heard further down), or its
// pitch is struck again. Sets the notes' ends and levels.
// Errors: Cancelled.
Status findRingEnds(SoundView sound,
                    const Instrument& instrument,
                    const LocalTuning& tuning,
                    double end_drop_db,
                    std::vector<ChordEvent>& events,
                    const JobControl& job);

} // namespace wirenote
