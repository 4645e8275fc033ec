#include "seeing/neck_way.h"

#include "seeing/tip_evidence.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kNutFret = 0.0;
constexpr double kTwelfth = 12.0;

// In the order in which a frame keeps them.
std::array<PlanePoint, 4> cornersOf(const NeckPlane& plane) {
    return {plane.edge(kNutFret, false),
            plane.edge(kNutFret, true),
            plane.edge(kTwelfth, false),
            plane.edge(kTwelfth, true)};
}

std::array<double, 8>
cornersBetween(const NeckFrame& before, const NeckFrame& after, double time_s) {
    const double share = after.time_s > before.time_s
                             ? (time_s - before.time_s) / (after.time_s - before.time_s)
                             : 0.0;
    std::array<double, 8> corners{};
    for (std::size_t i = 0; i < corners.size(); ++i)
        corners[i] = before.corners[i] + share * (after.corners[i] - before.corners[i]);
    return corners;
}

// Whether a straight way between two frames passes all frames between them.
bool tellsAll(const std::vector<NeckFrame>& frames, std::size_t from, std::size_t to) {
    constexpr double kPixel = 1.0;
    for (std::size_t k = from + 1; k < to; ++k) {
        const auto corners = cornersBetween(frames[from], frames[to], frames[k].time_s);
        for (std::size_t i = 0; i < corners.size(); ++i)
            if (std::abs(corners[i] - frames[k].corners[i]) > kPixel)
                return false;
    }
    return true;
}

} // namespace

NeckFrame neckFrame(const NeckPlane& plane, const Homography& neck, double time_s) {
    NeckFrame frame;
    frame.time_s = time_s;
    std::size_t i = 0;
    for (const PlanePoint& corner : cornersOf(plane)) {
        const PicturePoint at = project(neck, corner);
        frame.corners[i++] = at.x;
        frame.corners[i++] = at.y;
    }
    return frame;
}

std::optional<Homography> neckOf(const NeckPlane& plane, const NeckFrame& frame) {
    const auto corners = cornersOf(plane);
    std::array<PicturePoint, 4> seen;
    for (std::size_t i = 0; i < seen.size(); ++i)
        seen[i] = {frame.corners[2 * i], frame.corners[2 * i + 1]};
    return homographyBetween(corners, seen);
}

std::optional<Homography> neckAt(const NeckPlane& plane, const FilmFacts& film, double time_s) {
    const auto& frames = film.frames;
    const auto after = std::ranges::lower_bound(frames, time_s, {}, &NeckFrame::time_s);
    const auto near = [time_s](const NeckFrame& frame) {
        return std::abs(frame.time_s - time_s) < kNeckFramesNear_s / 2.0;
    };
    if (after == frames.end() || after == frames.begin()) {
        if (frames.empty())
            return std::nullopt;
        const NeckFrame& end = after == frames.end() ? frames.back() : frames.front();
        return near(end) ? neckOf(plane, end) : std::nullopt;
    }
    const NeckFrame& before = *(after - 1);
    if (after->time_s - before.time_s <= kNeckFramesNear_s)
        return neckOf(plane, {time_s, cornersBetween(before, *after, time_s)});
    const NeckFrame& nearest = time_s - before.time_s < after->time_s - time_s ? before : *after;
    constexpr double kHalfStep_s = 0.1; // a frame holds for its own moment
    return std::abs(nearest.time_s - time_s) < kHalfStep_s ? neckOf(plane, nearest) : std::nullopt;
}

std::vector<NeckFrame> thinned(const std::vector<NeckFrame>& frames) {
    constexpr double kApart_s = 1.0;
    constexpr double kGap_s = 0.4; // between neighbours: lost in between
    std::vector<NeckFrame> kept;
    for (std::size_t from = 0; from < frames.size();) {
        kept.push_back(frames[from]);
        std::size_t to = from + 1;
        while (to + 1 < frames.size() && frames[to + 1].time_s - frames[to].time_s < kGap_s &&
               frames[to + 1].time_s - frames[from].time_s < kApart_s &&
               frames[to].time_s - frames[to - 1].time_s < kGap_s && tellsAll(frames, from, to + 1))
            ++to;
        from = to;
    }
    if (kept.size() > kMaxNeckFrames)
        kept.resize(kMaxNeckFrames);
    return kept;
}

NeckFrame recounted(const NeckPlane& plane, const Homography& neck, int shift, double time_s) {
    NeckFrame frame;
    frame.time_s = time_s;
    std::size_t i = 0;
    for (const double fret : {0.0, 12.0})
        for (const bool thin : {false, true}) {
            const PicturePoint at = project(neck, plane.edge(fret - shift, thin));
            frame.corners[i++] = at.x;
            frame.corners[i++] = at.y;
        }
    return frame;
}

std::optional<Position>
placeShown(const Instrument& instrument, const NeckPlane& plane, PlanePoint at, int midi) {
    constexpr double kFarthest = 4.5; // nepers: a good fret or a string and a half away
    const std::vector<SeenTip> tip = {{0, plane.fretAt(at.along_mm), plane.stringAt(at)}};
    std::optional<Position> best;
    double least = kFarthest;
    for (int string = 1; string <= instrument.stringCount(); ++string) {
        const int fret = instrument.fretFor(string, midi);
        if (fret <= 0)
            continue;
        // Wires are counted from the nut, whatever the capo.
        if (const double cost = tipCost(plane, tip, {string, fret + instrument.capo});
            cost < least) {
            least = cost;
            best = Position{string, fret};
        }
    }
    return best;
}

std::optional<Position>
pluckedShown(const Instrument& instrument, const NeckPlane& plane, PlanePoint at, int midi) {
    constexpr double kFirstFret = 12.0;
    constexpr double kFarthest = 0.5; // strings beyond the outer ones
    const double across = plane.stringAt(at);
    if (at.along_mm < plane.wire_mm(kFirstFret) || across < 1.0 - kFarthest ||
        across > instrument.stringCount() + kFarthest)
        return std::nullopt;
    const int string =
        std::clamp(static_cast<int>(std::lround(across)), 1, instrument.stringCount());
    const int fret = instrument.fretFor(string, midi);
    return fret >= 0 ? std::optional(Position{string, fret}) : std::nullopt;
}

} // namespace wirenote
