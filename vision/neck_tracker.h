#pragma once

#include "base/picture.h"
#include "seeing/neck_plane.h"

#include <memory>
#include <optional>

namespace wirenote {

// Follows the plane of a neck through a film from one picture in which it is known. Every picture
// is laid straight by the last map and compared, point by point, with the first one laid straight,
// so that errors do not add up: pyramidal Lucas–Kanade flow there and back (Bouguet, "Pyramidal
// implementation of the Lucas Kanade feature tracker", 2000, OpenCV's implementation) and a robust
// homography of what agrees (RANSAC, Fischler and Bolles 1981). Hands that hide a part of the neck
// are left out by that.
class NeckTracker {
  public:
    // `neck`: from millimetres of the plane to pixels of that picture.
    NeckTracker(const NeckPlane& plane, const PictureView& picture, const Homography& neck);
    ~NeckTracker();
    NeckTracker(NeckTracker&&) noexcept;
    NeckTracker& operator=(NeckTracker&&) noexcept;

    // The map in another picture, near the last one in time. Nothing where the neck is lost: it is
    // looked for where it was seen last.
    std::optional<Homography> follow(const PictureView& picture);

  private:
    struct State;
    std::unique_ptr<State> m;
};

} // namespace wirenote
