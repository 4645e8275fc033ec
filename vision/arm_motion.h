#pragma once

#include "base/picture.h"
#include "seeing/neck_plane.h"

#include <optional>

namespace wirenote {

// How far what is behind the pick or the fingertips goes across the strings between two pictures,
// in mm of the neck's plane, so that what is nearer to the camera goes a little too far. Nothing of
// what is out of the picture.
struct ArmMotion {
    std::optional<double> heel_mm;    // of the hand
    std::optional<double> forearm_mm; // beyond the wrist
};

// `plucked_mm`: how far from the bridge the strings are plucked. The arm comes over the thick
// strings, as it does over every guitar and bass. Dense flow as in PluckingMotion.
ArmMotion armMotion(const NeckPlane& plane,
                    double plucked_mm,
                    const PictureView& first,
                    const Homography& first_neck,
                    const PictureView& second,
                    const Homography& second_neck);

} // namespace wirenote
