#include "session/film_way.h"

#include "base/median.h"
#include "vision/neck_finder.h"
#include "vision/neck_tracker.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kStep_s = 0.095; // from one look at the neck to the next
constexpr double kGoing = 0.7;    // of all the work; the rest is looking at the notes

} // namespace

void NeckWay::add(double time_s, const Homography& map) {
    times_s.push_back(time_s);
    maps.push_back(map);
}

std::optional<Homography> NeckWay::at(double time_s) const {
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

FilmWay::FilmWay(PictureReader& reader,
                 const NeckPlane& plane,
                 const NeckStart& start,
                 double length_s,
                 const JobControl& job)
    : m_reader(reader), m_plane(plane), m_start(start), m_length_s(length_s), m_job(job),
      m_hand(plane), m_motion(plane) {}

bool FilmWay::follow() {
    if (!followBack())
        return false;
    NeckTracker tracker(m_plane, m_start.picture->view(), m_start.neck);
    Homography last = m_start.neck;
    double due_s = m_start.picture->time_s;
    // Beside the decoding of the next picture.
    std::future<PluckingMotion::Moved> moving;
    for (auto picture = m_start.picture; picture;
         picture = m_reader.after(picture->time_s, Shade::Grey)) {
        if (m_job.cancelRequested())
            return false;
        if (picture->time_s >= due_s) {
            ++m_looks;
            due_s = picture->time_s + kStep_s;
            if (const auto found = tracker.follow(picture->view())) {
                last = *found;
                m_way.add(picture->time_s, last);
                learnHand(picture->time_s, last);
                checkWires(*picture, last);
            }
        }
        m_job.report(kGoing * picture->time_s, m_length_s);
        m_plucking_seen += m_motion.inSight(picture->view(), last) ? 1 : 0;
        ++m_gone;
        keepMoved(moving);
        moving = std::async(std::launch::async,
                            [this, picture, last] { return m_motion.next(picture->view(), last); });
        if (m_before_s)
            m_moved.times_s.push_back(0.5 * (*m_before_s + picture->time_s));
        m_before_s = picture->time_s;
    }
    keepMoved(moving);
    return true;
}

void FilmWay::learnHand(double time_s, const Homography& neck) {
    if (!m_hand.wantsNext())
        return;
    if (const auto picture = m_reader.at(time_s))
        m_hand.learn(picture->view(), neck);
}

void FilmWay::checkWires(const Picture& picture, const Homography& neck) {
    constexpr double kEvery_s = 2.0;
    if (picture.time_s < m_check_s)
        return;
    m_check_s = picture.time_s + kEvery_s;
    if (const auto off = neckOff_mm(m_plane, picture.view(), neck))
        m_off_mm.push_back(*off);
}

void FilmWay::keepMoved(std::future<PluckingMotion::Moved>& moving) {
    if (!moving.valid())
        return;
    const PluckingMotion::Moved moved = moving.get();
    if (m_first_moved) { // against no picture
        m_first_moved = false;
        return;
    }
    m_moved.down.push_back(moved.down);
    m_moved.up.push_back(moved.up);
}

bool FilmWay::followBack() {
    NeckTracker tracker(m_plane, m_start.picture->view(), m_start.neck);
    NeckWay back;
    for (double t = m_start.picture->time_s - kStep_s; t > 0.0; t -= kStep_s) {
        if (m_job.cancelRequested())
            return false;
        ++m_looks;
        const auto picture = m_reader.at(t, Shade::Grey);
        if (const auto found = picture ? tracker.follow(picture->view()) : std::nullopt) {
            back.add(picture->time_s, *found);
            learnHand(picture->time_s, *found);
        }
    }
    for (std::size_t i = back.maps.size(); i-- > 0;)
        if (m_way.times_s.empty() || back.times_s[i] > m_way.times_s.back())
            m_way.add(back.times_s[i], back.maps[i]);
    return true;
}

bool FilmWay::showsPlucking() const {
    constexpr double kMost = 0.8; // of the pictures
    return m_plucking_seen >= kMost * m_gone;
}

double FilmWay::off_mm() const {
    std::vector<double> off = m_off_mm;
    return median(off).value_or(-1.0);
}

double FilmWay::followed() const {
    return m_looks == 0 ? 0.0 : static_cast<double>(m_way.maps.size()) / m_looks;
}

bool FilmWay::settle() {
    if (!m_start.given && m_hand.comesOverThick()) {
        m_hand.turnOver();
        for (Homography& map : m_way.maps)
            for (const std::size_t i : {1U, 4U, 7U}) // what grows across the neck
                map[i] = -map[i];
        std::swap(m_moved.down, m_moved.up);
    }
    return m_hand.settle();
}

std::vector<NeckFrame> FilmWay::frames(double scale) const {
    std::vector<NeckFrame> frames;
    for (std::size_t i = 0; i < m_way.maps.size(); ++i) {
        frames.push_back(neckFrame(m_plane, m_way.maps[i], m_way.times_s[i]));
        for (double& pixel : frames.back().corners)
            pixel /= scale;
    }
    return thinned(frames);
}

std::optional<FilmWay::Sight> FilmWay::sightAt(double time_s, Shade shade) {
    const auto neck = m_way.at(time_s);
    auto picture = neck ? m_reader.at(time_s, shade) : nullptr;
    if (!picture)
        return std::nullopt;
    return Sight{std::move(picture), *neck};
}

std::optional<double> FilmWay::across_mm(const std::vector<std::optional<Sight>>& about) const {
    double sum = 0.0;
    const Sight* before = nullptr;
    for (const auto& sight : about) {
        if (!sight || !m_motion.inSight(sight->picture->view(), sight->neck))
            return std::nullopt;
        if (before && before->picture != sight->picture)
            sum += m_motion.across_mm(
                before->picture->view(), before->neck, sight->picture->view(), sight->neck);
        before = &*sight;
    }
    return sum;
}

ArmMotion FilmWay::armMotion(const std::vector<std::optional<Sight>>& about,
                             double plucked_mm) const {
    const auto& first = about.front();
    const auto& last = about.back();
    if (!first || !last)
        return {};
    return wirenote::armMotion(m_plane,
                               plucked_mm,
                               first->picture->view(),
                               first->neck,
                               last->picture->view(),
                               last->neck);
}

std::optional<PluckMap> FilmWay::pluckMap(const std::optional<Sight>& before,
                                          const std::optional<Sight>& after) const {
    if (!before || !after || !m_motion.inSight(after->picture->view(), after->neck))
        return std::nullopt;
    return m_motion.map(before->picture->view(), before->neck, after->picture->view(), after->neck);
}

std::vector<SeenTip> FilmWay::tipsIn(const std::optional<Sight>& sight) const {
    std::vector<SeenTip> tips;
    if (!sight)
        return tips;
    for (const PlanePoint& tip : m_hand.tips(sight->picture->view(), sight->neck))
        if (tips.size() < kMaxSeenTips)
            tips.push_back({0, m_plane.fretAt(tip.along_mm), m_plane.stringAt(tip)});
    return tips;
}

std::future<FilmWay::AtNote> FilmWay::lookAt(double onset_s, std::optional<double> attack_s) {
    constexpr double kPicture_s = 1.0 / 30.0;
    constexpr double kBefore_s = 0.066;
    constexpr double kAfter_s = 0.034;
    constexpr double kPressed_s = 0.06; // the finger is down and still there
    std::vector<std::optional<Sight>> about;
    std::optional<Sight> before;
    std::optional<Sight> after;
    if (attack_s) {
        before = sightAt(*attack_s - kBefore_s, Shade::Grey);
        for (const double aside_s : {-kPicture_s, 0.0, kPicture_s})
            about.push_back(sightAt(*attack_s + aside_s, Shade::Grey));
        after = sightAt(*attack_s + kAfter_s, Shade::Grey);
    }
    const std::optional<Sight> pressed = sightAt(onset_s + kPressed_s, Shade::Colours);
    return std::async(std::launch::async, [this, about, before, after, pressed] {
        AtNote seen;
        if (!about.empty())
            seen.across_mm = across_mm(about);
        seen.plucked = pluckMap(before, after);
        if (seen.plucked && seen.plucked->all() > 0.0)
            seen.plucked_mm = PluckingMotion::fromBridge_mm(m_plane, seen.plucked->edge());
        if (seen.across_mm && seen.plucked_mm)
            seen.arm = armMotion(about, *seen.plucked_mm);
        seen.tips = tipsIn(pressed);
        return seen;
    });
}

} // namespace wirenote
