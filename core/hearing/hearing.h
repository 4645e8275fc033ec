// From sound to notes, one line or several voices.
#pragma once

#include "hearing/chords.h"
#include "hearing/melody.h"
#include "hearing/voices.h"

namespace wirenote {

struct GhostParameters {
    double flatness = 0.02;       // from here on a stroke sounds of noise, not of strings …
    double noisy_flatness = 0.04; // … a clear case of it …
    double drop_db = 22.0;        // … when it falls by this within a sixth of a second …
    double drop_share = 0.8; // … or by this share of what it stands above the quietest moments
};

// Hears a take: where it is one line by hearMelody (with slurs, bends and pitch curves), where more
// sounds at once by hearChords. `sound` is mono at kAnalysisRateHz. Errors: Cancelled.
Result<Hearing> hearTake(SoundView sound,
                         const Instrument& instrument,
                         std::optional<double> a4_hz,
                         const HearingParameters& parameters,
                         const JobControl& job,
                         const HeardSoFar& so_far = {});

} // namespace wirenote
