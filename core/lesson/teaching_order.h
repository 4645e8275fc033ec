// In which order phrases are taught.
#pragma once

#include "lesson/breakdown.h"

namespace wirenote {

// All steps in the order of this manner of teaching: what comes for the first time is taught, then
// joined with what came before in its section (A, B, A + B, C, A + B + C), something easy follows
// something hard. `one_voice`: there is no bass to be taught apart.
std::vector<TeachStep>
stepsOf(const std::vector<TeachPhrase>& phrases, const TeachingManner& manner, bool one_voice);

} // namespace wirenote
