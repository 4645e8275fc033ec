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

  private:
    struct State;
    std::unique_ptr<State> m;
};

} // namespace wirenote
