#pragma once

#include "base/picture.h"

namespace wirenote {

// How much of a neck one picture shows.
struct NeckPresence {
    int frets = 0;          // wires across a band of long parallel edges that can be made out
    double share = 0.0;     // length of that stretch, as a share of the picture's longer side
    double angle_deg = 0.0; // of the neck against the horizontal, −90..90
};

// Looks for a band of long parallel edges (the neck's sides and strings) crossed by many short ones
// (fret wires). Rough: it tells whether a film is worth looking at, not where the neck is. Line
// segments: von Gioi et al., "LSD: a fast line segment detector with a false detection control",
// IEEE PAMI 32, 2010 (OpenCV's implementation).
NeckPresence neckPresence(const PictureView& picture);

} // namespace wirenote
