#pragma once

#include "base/picture.h"
#include "seeing/neck_plane.h"
#include "seeing/pluck_fingers.h"

#include <memory>

namespace wirenote {

// What moves where strings are plucked, between the end of the neck and the bridge, laid straight.
// Dense flow: Farnebäck, "Two-frame motion estimation based on polynomial expansion", 2003
// (OpenCV's implementation).
class PluckingMotion {
  public:
    explicit PluckingMotion(const NeckPlane& plane);
    ~PluckingMotion();

    // How much moved since the picture before, towards the thin strings and towards the thick
    // ones; 0 at the first. In no measure: to be compared within one film.
    struct Moved {
        double down = 0.0;
        double up = 0.0;
    };
    Moved next(const PictureView& picture, const Homography& neck);
    // Whether most of that place is in the picture.
    bool inSight(const PictureView& picture, const Homography& neck) const;
    // How far what moves there goes from the thick strings to the thin ones between two pictures,
    // in mm.
    double across_mm(const PictureView& first,
                     const Homography& first_neck,
                     const PictureView& second,
                     const Homography& second_neck) const;
    // How far from the bridge a point of a map lies, by PluckMap::edge().
    static double fromBridge_mm(const NeckPlane& plane, double along);
    // Where something changed between two pictures.
    PluckMap map(const PictureView& first,
                 const Homography& first_neck,
                 const PictureView& second,
                 const Homography& second_neck) const;

  private:
    struct State;
    std::unique_ptr<State> m;
};

} // namespace wirenote
