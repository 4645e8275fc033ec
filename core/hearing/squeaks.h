#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"
#include "piece/note.h"

#include <vector>

namespace wirenote {

// Working figures, common practice: a fingertip that slides along a wound string rubs over its
// windings and whistles between about 1.5 and 6 kHz for a twentieth to a quarter of a second, far
// below the notes.
struct SqueakParameters {
    double low_hz = 1800.0;
    double high_hz = 6500.0;
    double body_hz = 900.0; // below this nothing may grow
    double rise_db = 8.0;   // of the whistle over the dying note
    double still_db = 2.0;  // of what is below body_hz, at the most
    double above_noise_db = 8.0;
    double under_note_db = 6.0; // under the attack that follows
    double least_s = 0.03;      // until it is strongest: what is plucked swells at once
};

// Marks the notes before whose attack a hand was heard to slide along a wound string. `notes` in
// order of time, `sound` mono. Errors: Cancelled.
Status hearSqueaks(SoundView sound,
                   std::vector<Note>& notes,
                   const JobControl& job,
                   const SqueakParameters& parameters = {});

} // namespace wirenote
