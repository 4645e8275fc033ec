#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"
#include "music/instrument.h"
#include "piece/piece.h"

#include <vector>

namespace wirenote {

// Strokes that sound lower than anything on this neck: the instrument, or its tuning, is another
// one. At each moment the spectrum just after it is held against the multiples of every pitch from
// B0 up to the lowest string: a note that is there has the multiples that an octave or a fifth above
// it would not have (the first, and others of the odd ones), none of them much weaker than the even
// ones – what an overdriven amplifier makes of two strings has them weaker. `attacks_s` rising;
// `sound` is mono at kAnalysisRateHz. Near misses without a place, at most one a moment. Errors:
// Cancelled.
Result<std::vector<NearMiss>> heardBelow(SoundView sound,
                                         const Instrument& instrument,
                                         double a4_hz,
                                         const std::vector<double>& attacks_s,
                                         const JobControl& job);

} // namespace wirenote
