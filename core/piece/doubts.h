#pragma once

#include "piece/piece.h"

#include <vector>

namespace wirenote {

// A decision a person should look at.
struct Doubt {
    NoteId note = 0;
    DoubtKind kind = DoubtKind::Place;
    double onset_s = 0.0;
    double urgency = 0.0; // how unsure, times how much hangs on it; 0..1
};

struct DoubtParameters {
    double least_urgency = 0.22; // below this nobody is asked
    double sure_stroke = 0.8;    // … nor about strokes that are believed more than this
    double only_here = 0.3;      // urgency of a sure note that is in one playing only
    double sure_finger = 0.82;   // nobody is asked about fingers that are believed more than this
};

// The open doubts, most urgent first. Set decisions are never among them. Of strokes only what ear
// and rule contradict each other about, once a stroke, on its first note without a doubt of its
// own; nobody is asked about strokes that only rules speak of, nor about what the leading take
// shows once more. A finger that is a toss-up comes behind notes. A note has at most one: its most
// urgent.
// What a person has left open on purpose is not among them; nor, in a reading that was made to be
// played otherwise, where and how its notes are taken: that is proposed, not found.
std::vector<Doubt> openDoubts(const Piece& piece, const DoubtParameters& parameters = {});

// What is left open on purpose, in order of time.
struct OpenOnPurpose {
    NoteId note = 0;
    double onset_s = 0.0;
    LeftOpen left;
};
std::vector<OpenOnPurpose> leftOpen(const Piece& piece);

} // namespace wirenote
