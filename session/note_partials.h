// The partials of one note, measured again for a person who asks.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "piece/piece.h"
#include "signal/stiffness_meter.h"

namespace wirenote {

// Reads the part of the leading take in which the note sounds, and fits its partials as the hearing
// did. A fit that is not told has the partials that were found. Errors: no such note, no recording,
// the recording cannot be read, cancelled.
Result<StiffnessFit> partialsOf(const Piece& piece, NoteId note, const JobControl& job);

} // namespace wirenote
