// What each stretch of playing in the takes of a piece shows.
#pragma once

#include "base/job.h"
#include "form/form.h"
#include "form/note_matching.h"
#include "piece/piece.h"

#include <vector>

namespace wirenote {

// What was heard in a take: of the leading one the notes of the piece, of others their own.
// `index` counts into Piece::notes or Take::notes.
std::vector<PlayedNote> playedIn(const Piece& piece, std::size_t take);

// The stretches of a take in which somebody plays, between talk and longer silences. All that is
// heard of the take where nobody has listened for talk.
std::vector<TimeRange> playingStretches(const Take& take);

// Take by take, what each stretch of playing shows, in order of time. The piece itself is the
// longest stretch of the leading take and whatever else there is not in it; every other stretch is
// looked for in it, at any tempo, and where nothing fits in what was played before it in its take.
// What a person has said of a stretch (Take::demonstrations) stays. One that differs from the piece
// in what the others agree on is not to be learned from, until a person says so. Cancelled:
// nothing.
std::vector<std::vector<Demonstration>> demonstrationsOf(const Piece& piece,
                                                         const JobControl& job = {});

// Bars without what the leading take shows once more, or beside the piece: what comes again there
// is no form.
void leaveOutShownAgain(const Piece& piece, std::vector<BarContent>& bars);

} // namespace wirenote
