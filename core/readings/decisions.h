// What new evidence would decide otherwise: shown before and after, taken one by one or all.
#pragma once

#include "piece/piece.h"

#include <string>
#include <vector>

namespace wirenote {

enum class ChangedWhat { Comes, Goes, Pitch, Time, Place, Finger, Stroke, Technique };

// One decision of one note that is another one after new evidence.
struct DecisionChange {
    NoteId note = 0;
    double onset_s = 0.0;
    ChangedWhat what = ChangedWhat::Place;
    std::string before; // "string 4, fret 5"
    std::string after;
    double probability_before = 0.0;
    double probability_after = 0.0;
    Basis basis_after = Basis::Reasoned;
};

// Of "as played", by time. Nothing that a person set is among them, as no evidence changes it; nor
// are probabilities that only grew or fell.
std::vector<DecisionChange> decisionChanges(const Piece& before, const Piece& after);

// `after`, but notes in `refused` are decided as before: what would have changed of them is set, so
// that the next evidence of the same kind does not ask again. `when`, `who`: for the log.
Piece withoutChanges(const Piece& before,
                     const Piece& after,
                     const std::vector<NoteId>& refused,
                     const std::string& when,
                     const std::string& who);

} // namespace wirenote
