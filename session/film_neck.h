// Where to begin to follow a neck through a film.
#pragma once

#include "base/job.h"
#include "formats/neck_json.h"
#include "media/picture_reader.h"
#include "seeing/neck_way.h"

#include <filesystem>
#include <memory>
#include <optional>

namespace wirenote {

struct NeckStart {
    std::shared_ptr<const Picture> picture;
    Homography neck{};      // to the pixels of that picture
    bool given = false;     // by a person: its sides and its numbering are known
    double numbering = 1.0; // 0..1: how likely the frets are counted rightly
};

// A neck as a take keeps it, as if a person had said it.
NeckMarks marksOf(const NeckFrame& frame);

// The given neck in its picture. `scale`: pixels read for each pixel of the film. Errors: the film
// ends before that moment, or the points are no neck.
Result<NeckStart> givenNeck(PictureReader& reader,
                            const NeckPlane& plane,
                            const NeckMarks& marks,
                            double scale,
                            const std::filesystem::path& film);

// The neck of the picture that shows it most clearly, of some from all over the film. Errors: none
// shows one, or cancelled.
Result<NeckStart> clearestNeck(PictureReader& reader,
                               const NeckPlane& plane,
                               double length_s,
                               const std::filesystem::path& film,
                               const JobControl& job);

} // namespace wirenote
