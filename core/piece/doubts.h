#pragma once

#include "piece/piece.h"

#include <vector>

namespace wirenote {

enum class DoubtKind { Place, Pitch, Existence, NoPlace };

// A decision a person should look at.
struct Doubt {
    NoteId note = 0;
    DoubtKind kind = DoubtKind::Place;
    double onset_s = 0.0;
    double urgency = 0.0; // how unsure, times how much hangs on it; 0..1
};

struct DoubtParameters {
    double least_urgency = 0.22; // below this nobody is asked
};

// The open doubts, most urgent first. Set decisions are never among them.
// A note has at most one: its most urgent.
std::vector<Doubt> openDoubts(const Piece& piece, const DoubtParameters& parameters = {});

} // namespace wirenote
