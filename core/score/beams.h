// What hangs together: beams by the beat of the metre, and the values of one tuplet.
#pragma once

#include "score/bars.h"

namespace wirenote {

// Where the beam that begins at `from` (quarter notes within a whole bar) must end at the latest:
// at the next beat; in simple metres of quavers at groups of two and a last one of three, in 3/8 at
// the bar line (common practice).
Rational beamEnd(const Metre& metre, Rational from);

// Fills in Value::beam and Value::bracket of one voice of a bar. Notes shorter than a quarter hang
// on one beam when nothing stands between them and no beat lies between them; rests break beams.
// The values of a tuplet are those that fill a beat, or the beats it takes, together.
void groupValues(const Bar& bar, std::vector<Value>& values);

} // namespace wirenote
