// Which fingertips of a film press a string, and which wait above one.
#pragma once

#include "piece/seen.h"
#include "seeing/neck_plane.h"

#include <span>

namespace wirenote {

struct SeenMoment {
    SeenFacts* seen = nullptr;
    double onset_s = 0.0;
    int midi = -1; // that begins to sound, as the strings have it; negative: none
};

// Sets SeenTip::pressed of moments in the order of time. The tip at the place that fits what is
// heard presses; of the others those do more likely that lie as they lay at the stroke before or
// lie at the next one, and those that reach over thicker strings: a finger that waits keeps near
// the edge and moves. A camera in front of the neck does not see more (a logistic function of both,
// learned from 614 fingertips of six films; of one left out it told .73, .63 by always guessing
// the same).
void tellPressed(const Instrument& instrument,
                 const NeckPlane& plane,
                 std::span<const SeenMoment> moments);

} // namespace wirenote
