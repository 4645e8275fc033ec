// Strokes without a pitch: over damped strings in a strum, or a dead note in a line.
#pragma once

#include "base/job.h"
#include "hearing/local_tuning.h"
#include "piece/note.h"
#include "signal/spectral_flux.h"

#include <vector>

namespace wirenote {

struct GhostParameters {
    double flatness = 0.02;       // from here on a stroke sounds of noise, not of strings …
    double noisy_flatness = 0.04; // … a clear case of it …
    double drop_db = 22.0;        // … when it falls by this within a sixth of a second …
    double drop_share = 0.8; // … or by this share of what it stands above the quietest moments
};

// A stroke over damped strings: noise that is gone within a sixth of a second, or by the next one.
// `flatness` as of AttackPicture, `floor_db` the quietest moments thereabouts.
bool isGhost(double onset_s,
             double flatness,
             double next_s,
             const FluxTrack& flux,
             double floor_db,
             const GhostParameters& parameters = {});

// The level that all but a fiftieth of what is near lies above: the noise there, or silence.
Nearby quietestLevel(const FluxTrack& flux);

// Puts the dead notes of a line in: strokes at which the line has no note, or a short one that is
// none, and which sound of noise, and where no pitch begins. Each takes the pitch of the note
// before it, as the hand only rests on the string that it played last (common practice), and the
// name. `line` and `onsets` by time. Stops
// short when the job is cancelled.
void addDeadNotes(SoundView sound,
                  const LocalTuning& tuning,
                  const FluxTrack& flux,
                  const std::vector<OnsetPeak>& onsets,
                  std::vector<Note>& line,
                  const JobControl& job = {});

} // namespace wirenote
