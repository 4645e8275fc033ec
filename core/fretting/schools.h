// What each school of the fretting hand holds dear, and what is known of one player's habits.
#pragma once

#include "hand/hand_model.h"
#include "music/instrument.h"
#include "piece/reading.h"

namespace wirenote {

// The figures of a school, for this instrument: those of one finger a fret, changed where the
// school differs, and then where a rule of the manner says so. docs/schools.md says the same in
// words.
HandModel schoolModel(const FrettingManner& manner, const Instrument& instrument);

// The same, with what a person's word about other notes tells of this player: whether lines are
// taken on open strings or stopped, and, "as played", which fingers are used.
HandModel
playerModel(HandModel model, FrettingSchool school, const Instrument& instrument, const Rows& rows);

} // namespace wirenote
