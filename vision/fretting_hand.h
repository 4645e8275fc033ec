#pragma once

#include "base/picture.h"
#include "seeing/neck_plane.h"

#include <memory>
#include <vector>

namespace wirenote {

// Finds the fingertips of a fretting hand over a neck that is laid straight, by what differs from
// the neck without a hand. That neck is put together from pictures in which the hand was elsewhere:
// the middle of them in time, then without the stretch that the hand covers in each. Fingers come
// over the edge of the thin strings; each ends at its tip. Shadows, which darken a colour but keep
// it, are no fingers.
class FrettingHand {
  public:
    explicit FrettingHand(const NeckPlane& plane);
    ~FrettingHand();
    FrettingHand(FrettingHand&&) noexcept;
    FrettingHand& operator=(FrettingHand&&) noexcept;

    // Pictures from all over the film, in time; of many every so many are kept, at most kKept.
    static constexpr std::size_t kKept = 48;
    bool wantsNext(); // told of every picture; true: it is one to learn from
    void learn(const PictureView& picture, const Homography& neck);
    // After the last one. False: too few to tell hand and neck apart.
    bool settle();
    // Before that: whether fingers come over the edge that is taken for that of the thick strings.
    // Then the neck lies the other way round: a left-handed player, or a mirrored picture.
    bool comesOverThick();
    // Turns over what was learned. The maps have to be turned by whoever keeps them.
    void turnOver();

    // From the nut on; empty where no hand is seen.
    std::vector<PlanePoint> tips(const PictureView& picture, const Homography& neck) const;

  private:
    struct State;
    std::unique_ptr<State> m;
};

} // namespace wirenote
