// When notes end because their string or their finger is needed.
#pragma once

#include "piece/reading.h"

#include <vector>

namespace wirenote {

// When each note ends: a string sounds one note at a time, a finger holds one fret, and no open
// string sounds under a barre, so that what was heard to ring on ends where its string or its
// finger is needed. Times that were set stay.
std::vector<double> endsOnStrings(const Instrument& instrument, const Rows& rows);

} // namespace wirenote
