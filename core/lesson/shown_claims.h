// What is played otherwise than the tab has it, where a take shows the piece once more.
#pragma once

#include "lesson/claims.h"

#include <vector>

namespace wirenote {

// Every demonstration of the piece (Take::demonstrations) that nobody has refused, held against the
// tab: another pitch, a note too many or too few (field Note), slurred instead of struck or the
// other way round (field Stroke). Of each, `take` and `start_s` say where it is to be heard; `said`
// is empty where nothing is played, `is` where the tab has nothing. Wrong where both were heard
// well, unclear otherwise. By take and time.
std::vector<CheckedClaim> checkDemonstrations(const LessonFacts& facts, const Speaker& speaker);

} // namespace wirenote
