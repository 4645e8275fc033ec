// The course of each note's pitch where several sound.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"
#include "piece/note.h"

#include <vector>

namespace wirenote {

struct CurveParameters {
    double hop_s = 0.02;
    double window_s = 0.08;
    double settle_s = 0.05;      // from the attack on
    double least_length_s = 0.3; // shorter notes have no course to speak of
    int most_partials = 8;
    double step_cents = 45.0;  // the pitch moves no faster from one look to the next
    double agree_cents = 14.0; // partials that agree belong to the note …
    int least_agreeing = 3;    // … and so many must
    double most_cents = 320.0;
    double drawn_cents = 20.0; // so far from where it was struck, a note may go on after its end …
    double most_gap_s = 0.13;  // … while it is followed without a longer gap
    double clear_bins = 2.2;   // kept from every partial of the others
    double stands_db = 10.0;   // a partial over what lies between
};

// Gives notes without a curve one: some partials that no other note covers are followed from look
// to look, and where enough of them agree, their median is the pitch. Where they do not, there is
// a gap. A note that is drawn away from its pitch ends where it can no longer be followed. Names
// the vibrato and the bends that show. `notes` in order of onset, against a4_hz. Errors: Cancelled.
Status followPitches(SoundView sound,
                     double a4_hz,
                     std::vector<Note>& notes,
                     const JobControl& job,
                     const CurveParameters& parameters = {});

} // namespace wirenote
