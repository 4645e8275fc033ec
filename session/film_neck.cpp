#include "session/film_neck.h"

#include "vision/neck_finder.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <deque>
#include <future>

namespace wirenote {

NeckMarks marksOf(const NeckFrame& frame) {
    NeckMarks marks{frame.time_s, {}};
    std::size_t i = 0;
    for (const double fret : {0.0, 12.0})
        for (const bool thin : {false, true}) {
            marks.marks.push_back({fret, thin, {frame.corners[i], frame.corners[i + 1]}});
            i += 2;
        }
    return marks;
}

Result<NeckStart> givenNeck(PictureReader& reader,
                            const NeckPlane& plane,
                            const NeckMarks& marks,
                            double scale,
                            const std::filesystem::path& film) {
    constexpr double kShown_s = 2.0; // a picture may stand so long
    NeckStart start;
    start.given = true;
    start.picture = reader.at(marks.time_s);
    if (!start.picture)
        return badInput(film.string(), "has no picture that can be read");
    if (marks.time_s > start.picture->time_s + kShown_s)
        return badInput(film.string(),
                        "ends before the moment for which the neck is given; give it for one that "
                        "is in the film");
    const auto neck = neckIn(plane, marks);
    if (!neck)
        return badInput(film.string(), "the points given are no neck; three of them lie on a line");
    start.neck = *neck;
    for (std::size_t i = 0; i < 6; ++i)
        start.neck[i] *= scale;
    return start;
}

Result<NeckStart> clearestNeck(PictureReader& reader,
                               const NeckPlane& plane,
                               double length_s,
                               const std::filesystem::path& film,
                               const JobControl& job) {
    // Shares of the length; far apart first, since one clear picture is enough.
    constexpr std::array kMoments = {0.02, 0.5, 0.25, 0.75, 0.97, 0.12, 0.38, 0.62, 0.87};
    constexpr std::size_t kEnough = 3; // pictures, when one of them shows a neck
    constexpr double kClear = 24.0;    // wires, nut and inlays in sight
    constexpr double kSure = 4.0;      // of the numbering
    NeckStart best;
    double most = 0.0;
    double margin = 0.0;
    // Two pictures at a time.
    struct Look {
        std::shared_ptr<const Picture> picture;
        std::future<std::optional<FoundNeck>> found;
    };
    std::deque<Look> looks;
    std::size_t begun = 0;
    for (std::size_t k = 0; k < kMoments.size(); ++k) {
        if (job.cancelRequested())
            return cancelled();
        if (best.picture && (k >= kEnough || (most - margin >= kClear && margin >= kSure)))
            break;
        const std::size_t until = k < kEnough ? kEnough : kMoments.size();
        for (; begun < std::min(until, k + 2); ++begun) {
            const auto next = reader.at(kMoments[begun] * length_s);
            looks.push_back({next, std::async(std::launch::async, [&plane, next] {
                                 return next ? findNeck(plane, next->view()) : std::nullopt;
                             })});
        }
        const std::shared_ptr<const Picture> picture = looks.front().picture;
        const std::optional<FoundNeck> found = looks.front().found.get();
        looks.pop_front();
        if (!found || found->score + found->margin <= most)
            continue;
        most = found->score + found->margin;
        margin = found->margin;
        best = {picture, found->neck, false, 1.0 / (1.0 + std::exp(-margin))};
    }
    if (!best.picture)
        return badInput(film.string(),
                        "no neck can be made out in the film; give it by four points of one "
                        "picture (--neck, or in the window's film)");
    return best;
}

} // namespace wirenote
