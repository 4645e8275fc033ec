// Where the neck of a film is from picture to picture, as it is kept with a take.
#pragma once

#include "piece/film_facts.h"
#include "seeing/neck_plane.h"

#include <optional>
#include <vector>

namespace wirenote {

NeckFrame neckFrame(const NeckPlane& plane, const Homography& neck, double time_s);
std::optional<Homography> neckOf(const NeckPlane& plane, const NeckFrame& frame);

// The frame of a neck whose wire n was called wire n − `shift`.
NeckFrame recounted(const NeckPlane& plane, const Homography& neck, int shift, double time_s);

// From the plane of the neck to the film's pixels at a moment; nothing where the neck is lost or
// was never found.
std::optional<Homography> neckAt(const NeckPlane& plane, const FilmFacts& film, double time_s);

// Without the frames that those before and after them tell to a pixel. At least one a second stays
// wherever the neck was followed, so that what was lost stays lost.
std::vector<NeckFrame> thinned(const std::vector<NeckFrame>& frames);

// The place of a pitch that a point of the fingerboard shows, whatever its finger: nothing where
// none of its places is near. `at` in millimetres.
std::optional<Position>
placeShown(const Instrument& instrument, const NeckPlane& plane, PlanePoint at, int midi);

// The place of a pitch, open or stopped, on the string that a point shows where it is plucked: past
// the wire of the twelfth fret, where hands pluck. Nothing where no string is near, or the nearest
// cannot sound the pitch.
std::optional<Position>
pluckedShown(const Instrument& instrument, const NeckPlane& plane, PlanePoint at, int midi);

} // namespace wirenote
