#pragma once

#include "base/picture.h"

namespace wirenote {

// How much of a neck one picture shows.
struct NeckPresence {
    int wires = 0;          // fret wires that can be made out
    int frets = 0;          // from the first of them to the last; 0: no neck
    double share = 0.0;     // length of that stretch, as a share of the picture's longer side
    double angle_deg = 0.0; // of the neck against the horizontal, −90..90
};

// By the clearest row of lines that stand as frets stand, each a twelfth of an octave nearer to the
// bridge. It tells whether a film is worth looking at, not which fret is which: findNeck does.
NeckPresence neckPresence(const PictureView& picture);

} // namespace wirenote
