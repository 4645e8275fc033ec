#pragma once

#include "base/result.h"
#include "seeing/neck_plane.h"

#include <string>
#include <vector>

namespace wirenote {

// Where a wire of the neck (0: the nut) meets one of its edges in a picture.
struct NeckMark {
    double fret = 0.0;
    bool thin = false; // the edge of the thin strings
    PicturePoint at;   // in pixels of the film as it is
};

// What a person says of the neck at one moment of a film: any two wires or more, both edges.
struct NeckMarks {
    double time_s = 0.0;
    std::vector<NeckMark> marks;
};

// "wirenote-neck/1". Errors: no such file, too few points, or points that are no neck.
Result<NeckMarks> readNeckJson(const std::string& text);

// From the plane of the neck to the picture; nothing where the points do not give it.
std::optional<Homography> neckIn(const NeckPlane& plane, const NeckMarks& marks);

} // namespace wirenote
