#include "session/film_neck.h"

#include "vision/neck_finder.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <deque>
#include <future>

namespace wirenote {
namespace {

// Shares of a film's length; far apart first, since one clear picture is enough.
constexpr std::array kMoments = {0.02, 0.5, 0.25, 0.75, 0.97, 0.12, 0.38, 0.62, 0.87};
constexpr std::size_t kEnough = 3; // pictures, when one of them shows a neck
constexpr double kClear = 24.0;    // wires, nut and inlays in sight
constexpr double kSure = 4.0;      // of the numbering
constexpr double kAtOnce = 1.25;   // times as clear and as sure: no second one is needed

struct Look {
    std::shared_ptr<const Picture> picture;
    std::future<std::optional<FoundNeck>> found;
};

// Looks for a neck at one moment after the other, a picture ahead of the one that is asked for.
class NeckLooks {
  public:
    NeckLooks(PictureReader& reader, const NeckPlane& plane, double length_s)
        : m_reader(reader), m_plane(plane), m_length_s(length_s) {}

    // What the k-th moment shows; to be asked in order.
    Look next(std::size_t k) {
        const std::size_t until = k < kEnough ? kEnough : kMoments.size();
        // The first picture mostly settles it: none beside it.
        for (; m_begun < std::min(until, k == 0 ? 1 : k + 2); ++m_begun) {
            const auto picture = m_reader.at(kMoments[m_begun] * m_length_s, Shade::Grey);
            m_ahead.push_back({picture, std::async(std::launch::async, [this, picture] {
                                   return picture ? findNeck(m_plane, picture->view())
                                                  : std::nullopt;
                               })});
        }
        Look look = std::move(m_ahead.front());
        m_ahead.pop_front();
        return look;
    }

  private:
    PictureReader& m_reader;
    const NeckPlane& m_plane;
    double m_length_s;
    std::deque<Look> m_ahead;
    std::size_t m_begun = 0;
};

// Whether what was found so far settles it before the k-th moment. most: the best score with its
// margin.
bool settled(std::size_t k, double most, double margin) {
    const double enough = k < kEnough ? kAtOnce : 1.0;
    return k >= kEnough || (most - margin >= enough * kClear && margin >= enough * kSure);
}

} // namespace

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
    start.picture = reader.at(marks.time_s, Shade::Grey);
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
    NeckStart best;
    double most = 0.0;
    double margin = 0.0;
    NeckLooks looks(reader, plane, length_s);
    for (std::size_t k = 0; k < kMoments.size(); ++k) {
        if (job.cancelRequested())
            return cancelled();
        if (best.picture && settled(k, most, margin))
            break;
        Look look = looks.next(k);
        const std::optional<FoundNeck> found = look.found.get();
        if (!found || found->score + found->margin <= most)
            continue;
        most = found->score + found->margin;
        margin = found->margin;
        best = {look.picture, found->neck, false, 1.0 / (1.0 + std::exp(-margin))};
    }
    if (!best.picture)
        return badInput(film.string(),
                        "no neck can be made out in the film; give it by four points of one "
                        "picture (--neck, or in the window's film)");
    return best;
}

} // namespace wirenote
