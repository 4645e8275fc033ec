// From sound to notes, one line or several voices.
#pragma once

#include "hearing/chords.h"
#include "hearing/melody.h"
#include "hearing/voices.h"

namespace wirenote {

// Hears a take: where it is one line by hearMelody (with slurs, bends and pitch curves), where more
// sounds at once by hearChords. `sound` is mono at kAnalysisRateHz. Errors: Cancelled.
Result<Hearing> hearTake(SoundView sound,
                         const Instrument& instrument,
                         std::optional<double> a4_hz,
                         const HearingParameters& parameters,
                         const JobControl& job,
                         const HeardSoFar& so_far = {});

} // namespace wirenote
