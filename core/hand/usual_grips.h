// The grips that everybody learns, with the fingers that teachers show.
#pragma once

#include "music/instrument.h"
#include "piece/note.h"

#include <optional>
#include <span>
#include <vector>

namespace wirenote {

struct UsualFingers {
    std::vector<std::vector<Finger>> ways; // fingers of each stop; empty where no grip has them all
    bool learned = false; // of a grip that is learned as one, not of any three strings
};
// The fingers of the usual grips, open and movable, in which all these stops and open strings (bit
// n: string n) lie, of those that have the fewest strings besides. Six strings, fourths with one
// third as guitars are tuned, at any pitch or capo. Common practice.
UsualFingers
usualFingers(const Instrument& instrument, std::span<const Position> stops, unsigned open);

// An open grip of this shape, so many frets further down.
struct OpenGrip {
    const char* chord = ""; // "Dm"
    int frets_up = 0;
};
// The open grip that everybody learns first which has all these strings at the same distances, its
// open ones stopped with it, and no stop more; nothing where none has, or for fewer than three
// strings. Common practice.
std::optional<OpenGrip> openGripLike(const Instrument& instrument, std::span<const Position> grip);

} // namespace wirenote
