#include "session/watch_film.h"

#include "base/interpolate.h"
#include "base/median.h"
#include "media/media_info.h"
#include "media/picture_reader.h"
#include "seeing/tip_evidence.h"
#include "vision/fretting_hand.h"
#include "vision/neck_tracker.h"
#include "vision/plucking_motion.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace wirenote {
namespace {

constexpr int kWidest = 1280;     // pixels
constexpr double kStep_s = 0.095; // from one look at the neck to the next
// After a note begins its finger is down and still there: looked at in this order.
constexpr std::array kPressed_s = {0.06};
constexpr double kApart_s = 0.06; // attacks
constexpr double kLeastFollowed = 0.2;
constexpr double kFarthest_s = 0.3; // that picture and sound are apart
constexpr double kClear = 3.0;      // standard deviations

// Where the neck was at some moments.
struct NeckWay {
    std::vector<double> times_s;
    std::vector<Homography> maps;

    void add(double time_s, const Homography& map) {
        times_s.push_back(time_s);
        maps.push_back(map);
    }
    // Nothing where it was not seen near that time.
    std::optional<Homography> at(double time_s) const {
        constexpr double kNear_s = 0.25;
        const auto next = std::ranges::lower_bound(times_s, time_s);
        const auto i = static_cast<std::size_t>(next - times_s.begin());
        const auto far = [&](std::size_t k) { return std::abs(times_s[k] - time_s); };
        if (i < times_s.size() && i > 0 && far(i) < kNear_s && far(i - 1) < kNear_s)
            return between(
                maps[i - 1], maps[i], (time_s - times_s[i - 1]) / (times_s[i] - times_s[i - 1]));
        for (const std::size_t k : {i, i - 1})
            if (k < times_s.size() && far(k) < kNear_s)
                return maps[k];
        return std::nullopt;
    }
};

class FilmWatch {
  public:
    FilmWatch(PictureReader& reader,
              const NeckPlane& plane,
              const Homography& neck,
              const std::shared_ptr<const Picture>& first,
              const JobControl& job)
        : m_reader(reader), m_plane(plane), m_neck(neck), m_first(first), m_job(job), m_hand(plane),
          m_motion(plane) {}

    // Back to the beginning, then on to the end. False: cancelled.
    bool follow() {
        if (!followBack())
            return false;
        NeckTracker tracker(m_plane, m_first->view(), m_neck);
        Homography last = m_neck;
        double due_s = m_first->time_s;
        for (auto picture = m_first; picture; picture = m_reader.after(picture->time_s)) {
            if (m_job.cancelRequested())
                return false;
            if (picture->time_s >= due_s) {
                ++m_looks;
                due_s = picture->time_s + kStep_s;
                if (const auto found = tracker.follow(picture->view())) {
                    last = *found;
                    m_way.add(picture->time_s, last);
                    m_hand.learn(picture->view(), last);
                }
            }
            const double moved = m_motion.next(picture->view(), last);
            if (m_before_s)
                m_moved.push_back(moved),
                    m_moved_s.push_back(0.5 * (*m_before_s + picture->time_s));
            m_before_s = picture->time_s;
        }
        return true;
    }
    double followed() const {
        return m_looks == 0 ? 0.0 : static_cast<double>(m_way.maps.size()) / m_looks;
    }
    std::optional<double> offset(const std::vector<double>& onsets_s) const {
        return offsetByMotion(m_moved_s, m_moved, onsets_s);
    }
    bool settle() { return m_hand.settle(); }

    // How far the plucking hand goes across the strings about an attack; nothing where it is not
    // in sight.
    std::optional<double> across_mm(double onset_s) {
        constexpr double kPicture_s = 1.0 / 30.0;
        double sum = 0.0;
        std::shared_ptr<const Picture> before;
        std::optional<Homography> neck_before;
        for (const double at_s : {onset_s - kPicture_s, onset_s, onset_s + kPicture_s}) {
            const auto neck = m_way.at(at_s);
            const auto picture = neck ? m_reader.at(at_s) : nullptr;
            if (!picture)
                return std::nullopt;
            if (before && before != picture)
                sum += m_motion.across_mm(before->view(), *neck_before, picture->view(), *neck);
            before = picture;
            neck_before = neck;
        }
        return sum;
    }

    // Of a note that begins then: of some pictures the first that shows all four fingers, else the
    // one that comes nearest to it.
    std::vector<SeenTip> tipsAt(double onset_s) {
        constexpr int kAll = 4;
        std::vector<SeenTip> best;
        for (const double pressed_s : kPressed_s) {
            auto tips = tipsIn(onset_s + pressed_s);
            const auto off = [](const std::vector<SeenTip>& some) {
                return some.empty() ? kAll + 1 : std::abs(static_cast<int>(some.size()) - kAll);
            };
            if (off(tips) < off(best))
                best = std::move(tips);
            if (off(best) == 0)
                break;
        }
        return best;
    }

  private:
    std::vector<SeenTip> tipsIn(double time_s) {
        std::vector<SeenTip> tips;
        const auto neck = m_way.at(time_s);
        const auto picture = neck ? m_reader.at(time_s) : nullptr;
        if (!picture)
            return tips;
        for (const PlanePoint& tip : m_hand.tips(picture->view(), *neck))
            if (tips.size() < kMaxSeenTips)
                tips.push_back({0, m_plane.fretAt(tip.along_mm), m_plane.stringAt(tip)});
        if (tips.size() == 4) // all fingers, in their order along the neck
            for (std::size_t i = 0; i < tips.size(); ++i)
                tips[i].finger = static_cast<int>(i) + 1;
        return tips;
    }

    bool followBack() {
        NeckTracker tracker(m_plane, m_first->view(), m_neck);
        NeckWay back;
        for (double t = m_first->time_s - kStep_s; t > 0.0; t -= kStep_s) {
            if (m_job.cancelRequested())
                return false;
            ++m_looks;
            const auto picture = m_reader.at(t);
            if (const auto found = picture ? tracker.follow(picture->view()) : std::nullopt) {
                back.add(picture->time_s, *found);
                m_hand.learn(picture->view(), *found);
            }
        }
        for (std::size_t i = back.maps.size(); i-- > 0;)
            if (m_way.times_s.empty() || back.times_s[i] > m_way.times_s.back())
                m_way.add(back.times_s[i], back.maps[i]);
        return true;
    }

    PictureReader& m_reader;
    const NeckPlane& m_plane;
    Homography m_neck;
    std::shared_ptr<const Picture> m_first;
    const JobControl& m_job;
    NeckWay m_way;
    FrettingHand m_hand;
    PluckingMotion m_motion;
    std::vector<double> m_moved_s;
    std::vector<double> m_moved;
    std::optional<double> m_before_s;
    int m_looks = 0;
};

// The cheapest place of a pitch by the fingertips.
double bestCost(const Instrument& instrument,
                const NeckPlane& plane,
                const std::vector<SeenTip>& tips,
                int midi) {
    double least = kFarthestTip;
    for (int string = 1; string <= instrument.stringCount(); ++string)
        if (const int fret = instrument.fretFor(string, midi); fret > 0)
            least = std::min(least, tipCost(plane, tips, {string, fret + instrument.capo}));
    return least;
}

// A film of something else fits no better than the same hand elsewhere along the neck.
double trustOf(const Piece& piece, const NeckPlane& plane) {
    constexpr std::array kAside_mm = {-130.0, -85.0, -55.0, 55.0, 85.0, 130.0};
    std::vector<double> fits;
    std::vector<double> by_chance;
    for (const Note& note : piece.notes) {
        const SeenFacts* seen = note.seen();
        if (!seen || seen->tips.empty() || !note.pitched())
            continue;
        fits.push_back(bestCost(piece.instrument, plane, seen->tips, note.frettedMidi()));
        for (const double aside_mm : kAside_mm) {
            std::vector<SeenTip> moved = seen->tips;
            for (SeenTip& tip : moved)
                tip.fret = plane.fretAt(plane.wire_mm(tip.fret) + aside_mm);
            by_chance.push_back(bestCost(piece.instrument, plane, moved, note.frettedMidi()));
        }
    }
    return tipTrust(fits, by_chance);
}

// A pick's way, as likely as it is far beside the usual one of this film.
void addDirections(const std::vector<std::optional<double>>& across_mm, Piece& piece) {
    constexpr double kFar = 0.5;     // of the usual way
    constexpr double kAtMost = 0.97; // that it is so
    std::vector<double> far;
    for (const auto& way : across_mm)
        if (way)
            far.push_back(std::abs(*way));
    const double usual = median(far).value_or(0.0);
    for (std::size_t n = 0; n < piece.notes.size() && usual > 0.0; ++n)
        if (across_mm[n]) {
            const double share = std::tanh(*across_mm[n] / (kFar * usual));
            piece.notes[n].facts.front().seen.down = 0.5 + (kAtMost - 0.5) * share;
        }
}

// What each note shows; notes of one attack share the way of the plucking hand. False: cancelled.
bool lookAtNotes(FilmWatch& watch, double late_s, Piece& piece, const JobControl& job) {
    std::vector<std::optional<double>> across_mm;
    double attack_s = -1e9;
    for (Note& note : piece.notes) {
        if (job.cancelRequested())
            return false;
        note.ownSound(); // the note's own stretch of the take is the first of its facts
        const bool together = note.onset_s() < attack_s + kApart_s;
        if (!together)
            attack_s = note.onset_s();
        across_mm.push_back(together ? across_mm.back() : watch.across_mm(attack_s + late_s));
        note.facts.front().seen = {watch.tipsAt(note.onset_s() + late_s), 1.0, {}};
    }
    addDirections(across_mm, piece);
    return true;
}

Result<Homography> neckOf(const NeckPlane& plane,
                          const NeckMarks& marks,
                          double scale,
                          const std::filesystem::path& film) {
    auto neck = neckIn(plane, marks);
    if (!neck)
        return badInput(film.string(), "the points given are no neck; three of them lie on a line");
    for (std::size_t i = 0; i < 6; ++i)
        (*neck)[i] *= scale;
    return *neck;
}

} // namespace

std::optional<double> offsetByMotion(const std::vector<double>& times_s,
                                     const std::vector<double>& moved,
                                     const std::vector<double>& onsets_s) {
    constexpr std::size_t kFewest = 8;
    constexpr double kStep = 0.002;
    constexpr std::size_t kAbout = 15; // pictures to either side: what moves all the time
    if (onsets_s.size() < kFewest || times_s.size() < 2 * kAbout)
        return std::nullopt;
    std::vector<double> above(moved.size());
    for (std::size_t i = 0; i < moved.size(); ++i) {
        const std::size_t from = i > kAbout ? i - kAbout : 0;
        const std::size_t to = std::min(moved.size(), i + kAbout + 1);
        const double sum = std::accumulate(moved.begin() + static_cast<std::ptrdiff_t>(from),
                                           moved.begin() + static_cast<std::ptrdiff_t>(to),
                                           0.0);
        above[i] = moved[i] - sum / static_cast<double>(to - from);
    }
    std::vector<double> sums;
    for (double lag = -kFarthest_s; lag <= kFarthest_s + 1e-9; lag += kStep) {
        double sum = 0.0;
        for (const double onset_s : onsets_s)
            if (onset_s + lag > times_s.front() && onset_s + lag < times_s.back())
                sum += along(times_s, above, onset_s + lag);
        sums.push_back(sum);
    }
    const double mean =
        std::accumulate(sums.begin(), sums.end(), 0.0) / static_cast<double>(sums.size());
    double variance = 0.0;
    for (const double sum : sums)
        variance += (sum - mean) * (sum - mean) / static_cast<double>(sums.size());
    const auto best = std::ranges::max_element(sums);
    if (variance <= 0.0 || *best - mean < kClear * std::sqrt(variance))
        return std::nullopt;
    return -kFarthest_s + kStep * static_cast<double>(best - sums.begin());
}

Result<FilmSeen> watchFilm(const std::filesystem::path& film,
                           const FilmOptions& options,
                           double start_s,
                           Piece& piece,
                           const JobControl& job) {
    const auto info = readMediaInfo(film);
    if (!info)
        return info.error();
    auto reader = PictureReader::open(film, kWidest);
    if (!reader)
        return reader.error();
    const auto first = (*reader)->at(options.neck.time_s);
    if (!first)
        return badInput(film.string(), "has no picture that can be read");
    constexpr double kShown_s = 2.0; // a picture may stand so long
    if (options.neck.time_s > first->time_s + kShown_s)
        return badInput(film.string(),
                        "ends before the moment for which the neck is given; give it for one that "
                        "is in the film");
    const NeckPlane plane(piece.instrument);
    const double scale =
        info->picture.width > 0 ? static_cast<double>(first->width) / info->picture.width : 1.0;
    const auto neck = neckOf(plane, options.neck, scale, film);
    if (!neck)
        return neck.error();
    FilmWatch watch(**reader, plane, *neck, first, job);
    if (!watch.follow())
        return cancelled();
    FilmSeen said;
    said.followed = watch.followed();
    if (said.followed < kLeastFollowed || !watch.settle())
        return badInput(film.string(),
                        "the neck cannot be followed from the points given; check them against the "
                        "picture at their time");
    std::vector<double> onsets_s;
    for (const Note& note : piece.notes)
        if (onsets_s.empty() || note.onset_s() + start_s > onsets_s.back() + kApart_s)
            onsets_s.push_back(note.onset_s() + start_s);
    const auto measured = options.offset_s ? std::nullopt : watch.offset(onsets_s);
    said.offset_measured = measured.has_value();
    said.offset_s = options.offset_s ? *options.offset_s : measured.value_or(0.0);
    if (!lookAtNotes(watch, start_s + said.offset_s, piece, job))
        return cancelled();
    said.trust = trustOf(piece, plane);
    for (Note& note : piece.notes)
        note.facts.front().seen.trust = said.trust;
    return said;
}

} // namespace wirenote
