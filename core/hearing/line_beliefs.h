// What the network of attacks says of the notes of a line.
#pragma once

#include "base/job.h"
#include "base/sound.h"
#include "hearing/local_tuning.h"
#include "piece/piece.h"
#include "signal/spectral_flux.h"

#include <vector>

namespace wirenote {

struct LineBelief {
    double begins = 1.0;  // the probability that the note's pitch is struck where it begins
    double slurred = 0.0; // … that it is hammered, pulled off or slid to, if it begins
    double any = 1.0;     // … that the likeliest of all pitches is struck there
};

// One belief a note, in their order; notes outside the network's pitches get the defaults.
// `onsets` are the attacks of the sound, by time as the notes. Cut short, the rest get the
// defaults, when the job is cancelled.
std::vector<LineBelief> believeLine(SoundView sound,
                                    const LocalTuning& tuning,
                                    const std::vector<OnsetPeak>& onsets,
                                    const std::vector<Note>& notes,
                                    const JobControl& job = {});

// Writes to the notes of a line how likely each was slurred (HeardAttack::slurred).
void tellSlurs(const std::vector<LineBelief>& beliefs, std::vector<Note>& notes);

// Takes notes out of a line at whose attack no string seems to have been struck: a drum, a knock
// or a click fell on a note that rang on. How little belief is needed for that grows with the share
// of such attacks thereabouts: where a band plays along, a sound alone says little. The note before
// goes on through it. What is taken out is given back, as near misses.
std::vector<NearMiss> dropUnstruck(const std::vector<LineBelief>& beliefs,
                                   std::vector<Note>& notes);

} // namespace wirenote
