#pragma once

#include "base/picture.h"
#include "seeing/neck_plane.h"

#include <memory>

namespace wirenote {

// How much moves where strings are plucked, between the end of the neck and the bridge: the mean
// difference of grey from one picture to the next there, laid straight.
class PluckingMotion {
  public:
    explicit PluckingMotion(const NeckPlane& plane);
    ~PluckingMotion();
    // Since the picture before; 0 at the first.
    double next(const PictureView& picture, const Homography& neck);
    // How far what moves there goes from the thick strings to the thin ones between two pictures,
    // in mm (dense flow, Farnebäck, "Two-frame motion estimation based on polynomial expansion",
    // 2003).
    double across_mm(const PictureView& first,
                     const Homography& first_neck,
                     const PictureView& second,
                     const Homography& second_neck) const;

  private:
    struct State;
    std::unique_ptr<State> m;
};

} // namespace wirenote
