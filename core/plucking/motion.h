// A hand with a pick that moves on by the beat.
#pragma once

#include "plucking/plucked_line.h"

namespace wirenote {

// Whether the moving hand goes down at an attack: on the number and on its even parts, `per_beat`
// strokes to a beat (0: as each place suggests). Nothing where no beat says it: triplets, which
// take turns, and pieces without beats. Common practice.
std::optional<bool> downByTheBeat(const PluckedLine& line, std::size_t attack, int per_beat);

// The motion that agrees best with the strokes heard, trusted as far as it agrees.
HandMotion motionHeard(const PluckedLine& line);

} // namespace wirenote
