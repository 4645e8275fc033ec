// Every take heard, and what each stretch of its playing shows of the piece.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "piece/piece.h"

#include <cstddef>
#include <map>
#include <vector>

namespace wirenote {

// A take that does not lead, with what is heard in it: what goes on when, its reference and notes.
// The pitched notes come with what was measured of their strings. Nothing is changed. Errors: the
// recording cannot be used, cancelled.
struct OtherTake {
    Take take;
    std::vector<Note> notes;
};
Result<OtherTake> hearOtherTake(const Piece& piece, const Take& take, const JobControl& job);

// Finds what every take shows (form/demonstrations.h), lines the others up by it, and lets all of
// them say together which notes were played (form/agreement.h). Errors: cancelled.
// `heard`: the notes of takes that were heard just now, by take; they lend what they tell of their
// strings.
using HeardByTake = std::map<std::size_t, std::vector<Note>>;
Status recogniseDemonstrations(Piece& piece, const JobControl& job, const HeardByTake& heard = {});

// Lets the playings that the takes hold say anew which notes were played; notes that come of it are
// placed.
void weighVersions(Piece& piece);

// Hears every take that does not lead and was not heard yet, and recognises what all of them show.
// Nothing is changed: the piece as it is then. Errors: cancelled, a recording that cannot be used.
Result<Piece> hearEveryTake(const Piece& piece, const JobControl& job);

} // namespace wirenote
