#pragma once

#include "base/picture.h"
#include "seeing/neck_plane.h"

#include <optional>

namespace wirenote {

struct FoundNeck {
    // From millimetres of the plane to pixels of the picture, as if its player were right-handed
    // and the picture not mirrored: else the thin strings are on the other side.
    Homography neck{};
    double score = 0.0;  // wires, nut and inlays that speak for it
    double margin = 0.0; // by how much they speak for this numbering against the next best
};

// The neck in one picture: rows of lines that stand as frets stand (the wire n at L·(1 − 2^(−n/12))
// from the nut, in perspective), as far across as they reach; numbered by the nut, before which
// there are no wires, and by inlays. Nothing where no row is found.
std::optional<FoundNeck> findNeck(const NeckPlane& plane, const PictureView& picture);

// How far the wires in a picture lie from where a map has them, in mm along the neck; nothing where
// too few are seen.
std::optional<double>
neckOff_mm(const NeckPlane& plane, const PictureView& picture, const Homography& neck);

} // namespace wirenote
