// How beats are divided, as a file of written values says it.
#pragma once

#include "piece/timeline.h"

#include <vector>

namespace wirenote {

// Sets how each beat of a timeline is divided by where notes begin and end in score time (quarter
// notes from bar 1): nobody has to guess what is written. Beats in which nothing begins or ends,
// and divisions that none of ours is, are left open.
void divideBeats(Timeline& timeline, const std::vector<double>& places);

} // namespace wirenote
