// What the repeats of a phrase know of each other.
#pragma once

#include "base/job.h"
#include "form/versions.h"
#include "piece/piece.h"

namespace wirenote {

// Notes whose stiffness could not be measured take over what was measured of the same note in other
// repeats of their phrase (at the same pitch), where two or more of those agree with each other:
// marked as borrowed. Where they disagree, the repeats were played on different strings, and
// nothing is taken over. Pieces of more than 400 bars are left alone. Returns how many notes it
// helped.
int poolStiffness(Piece& piece, const JobControl& job = {});

// Lends notes whose stiffness was not measured that of the same notes in another take, where what
// both tell agrees: else it is another instrument, or it is played elsewhere on the neck. `heard`:
// the pitched notes of the take, as Take::notes has them; `versions`: of the piece. What that take
// lent before goes. Returns how many notes were helped.
int lendStiffness(Piece& piece,
                  std::size_t take,
                  const std::vector<Note>& heard,
                  const std::vector<Version>& versions);

} // namespace wirenote
