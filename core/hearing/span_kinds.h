// What a stretch is that is neither playing nor silence: talk, noise, or counting in.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"
#include "piece/take.h"

#include <vector>

namespace wirenote {

// Names parts of the talk that was heard: what has no pitch for longer than talk ever goes without
// (applause, hiss, handling) is noise; three or more evenly spaced words or clicks that lead to the
// first attack of the playing, with little between them, are a count-in. `spans` as soundSpans
// gives them, of the same sound. Errors: Cancelled.
Status nameTalk(SoundView sound, std::vector<SoundSpan>& spans, const JobControl& job);

} // namespace wirenote
