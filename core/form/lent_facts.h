// What the repeats of a phrase know of each other.
#pragma once

#include "base/job.h"
#include "piece/piece.h"

namespace wirenote {

// Notes whose stiffness could not be measured take over what was measured of the same note in other
// repeats of their phrase (at the same pitch), where two or more of those agree with each other:
// marked as borrowed. Where they disagree, the repeats were played on different strings, and
// nothing is taken over. Pieces of more than 400 bars are left alone. Returns how many notes it
// helped.
int poolStiffness(Piece& piece, const JobControl& job = {});

} // namespace wirenote
