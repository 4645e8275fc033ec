#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"
#include "piece/piece.h"
#include "signal/spectral_flux.h"

#include <vector>

namespace wirenote {

// Whether a guitar sounds electric, of steel or of nylon strings: how its partials stand after a
// stroke, how they die away and what noise the stroke makes, in the middle of up to sixty strokes.
// Learned from invented takes by tools/training/learn_kinds.py. Likeliest first; empty with few
// strokes, and of a bass. Errors: Cancelled.
Result<std::vector<KindGuess>> guessKind(SoundView sound,
                                         const Instrument& instrument,
                                         double a4_hz,
                                         const std::vector<OnsetPeak>& onsets,
                                         const std::vector<Note>& notes,
                                         const JobControl& job);

} // namespace wirenote
