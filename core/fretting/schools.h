// What each school of the fretting hand holds dear, and what is known of one player's habits.
#pragma once

#include "hand/hand_model.h"
#include "music/instrument.h"
#include "piece/reading.h"

#include <vector>

namespace wirenote {

// The figures of a school, for this instrument: those of one finger a fret, changed where the
// school differs. docs/schools.md says the same in words.
HandModel schoolModel(FrettingSchool school, const Instrument& instrument);

// The same, for a reading that is to be played otherwise than it was. What is wished is dear to
// break, not forbidden: what cannot be had comes out as near as it goes (unmetWishes()).
HandModel wishedModel(HandModel model, const ReadingWish& wish);

// The notes at which a reading does not have what was wished of it, in order.
std::vector<NoteId> unmetWishes(const Rows& rows, const ReadingWish& wish);

// The same, with what a person's word about other notes tells of this player: whether lines are
// taken on open strings or stopped, and, "as played", which fingers are used.
HandModel
playerModel(HandModel model, FrettingSchool school, const Instrument& instrument, const Rows& rows);

} // namespace wirenote
