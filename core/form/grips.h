// Strokes over several strings, and what other strokes tell of the grip behind one.
#pragma once

#include "piece/grip.h"
#include "piece/piece.h"

#include <optional>
#include <vector>

namespace wirenote {

struct Strum {
    std::vector<NoteId> notes; // by onset
    Grip grip;
    double onset_s = 0.0;
};

// The strokes that begin two pitched notes or more. Of two that were put on one string the likelier
// one tells the grip.
std::vector<Strum> strumsOf(const Piece& piece);

// A grip that a stroke may be part of.
struct WholeGrip {
    Grip grip;
    int heard = 0;     // in so many strokes
    int missing = 0;   // strings that the stroke lacks
    int differing = 0; // strings on which it has another fret
};

// The grips with which a stroke agrees on all strings but one, and on two at the least, and that
// were heard whole more often than the stroke was heard as it is; the likeliest first: what differs
// least, what was heard most.
std::vector<WholeGrip> wholeGripsOf(const std::vector<Strum>& strums, const Grip& grip);

// All strokes that were heard exactly so.
std::vector<Strum> sameStrums(const std::vector<Strum>& strums, const Grip& grip);

} // namespace wirenote
