// A hand with a pick that moves on by the beat.
#pragma once

#include "plucking/plucked_line.h"

namespace wirenote {

// Whether the moving hand goes down at an attack: on the number and on its even parts, by so many
// strokes to a beat as `motion` has, or up there where it is reversed. Nothing where no beat says
// it: triplets, which take turns, and pieces without beats. Common practice.
std::optional<bool>
downByTheBeat(const PluckedLine& line, std::size_t attack, const HandMotion& motion);

// The motion that agrees best with the strokes heard, trusted as far as it agrees. Reversed only
// where strums say so clearly.
HandMotion motionHeard(const PluckedLine& line);

} // namespace wirenote
