// The grips that everybody learns, with the fingers that teachers show.
#pragma once

#include "music/instrument.h"
#include "piece/note.h"

#include <span>
#include <vector>

namespace wirenote {

// The fingers of the usual grips, open and movable, in which all these stops and open strings (bit
// n: string n) lie, of those that have the fewest strings besides: one entry a grip, fingers of
// each stop; empty where none has them all. Six strings, fourths with one third as guitars are
// tuned, at any pitch or capo. Common practice.
std::vector<std::vector<Finger>>
usualFingers(const Instrument& instrument, std::span<const Position> stops, unsigned open);

} // namespace wirenote
