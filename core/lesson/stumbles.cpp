#include "lesson/stumbles.h"

#include "fretting/hand_load.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <optional>

namespace wirenote {
namespace {

bool fingered(Stroke stroke) {
    return stroke == Stroke::P || stroke == Stroke::I || stroke == Stroke::M ||
           stroke == Stroke::A || stroke == Stroke::C;
}

bool picked(Stroke stroke) {
    return stroke == Stroke::Down || stroke == Stroke::Up;
}

class Finder {
  public:
    explicit Finder(const LessonFacts& facts) : m_facts(facts) {}

    std::vector<Stumble> all() && {
        transitions();
        barres();
        holds();
        for (std::size_t m = 1; m < m_facts.moments().size(); ++m) {
            thumb(m);
            skip(m);
            turn(m);
        }
        return std::move(m_found);
    }

  private:
    Stumble at(StumbleKind kind, const LessonMoment& moment, std::size_t note, double score) const {
        Stumble stumble;
        stumble.kind = kind;
        stumble.at_s = moment.time_s;
        stumble.at = moment.start;
        stumble.note = m_facts.piece().notes[note].id;
        stumble.score = std::clamp(score, 0.0, 1.0);
        stumble.place = m_facts.plan(note).position.value;
        stumble.finger = m_facts.plan(note).finger.value;
        stumble.stroke = m_facts.plan(note).stroke.value;
        return stumble;
    }

    // What the hand hardly has time for.
    void transitions() {
        constexpr double kTight = 0.3; // of the time that there is
        for (const HandTransition& step :
             handTransitions(m_facts.piece().instrument, m_facts.piece().rows())) {
            const auto note = m_facts.piece().indexOf(step.note);
            const auto moment = note ? m_facts.momentOf(*note) : std::nullopt;
            if (!moment || step.gap_s <= 0.0 || step.needs_s < kTight * step.gap_s)
                continue;
            const double score = 0.8 * step.needs_s / step.gap_s;
            switch (step.hurdle) {
            case Hurdle::Shift:
                add(StumbleKind::FastShift, *moment, *note, score);
                break;
            case Hurdle::SameFinger:
                add(StumbleKind::SameFinger, *moment, *note, score);
                break;
            case Hurdle::Stretch:
                add(StumbleKind::WideStretch, *moment, *note, score);
                break;
            case Hurdle::Barre:
            case Hurdle::None:
                break;
            }
        }
    }

    void add(StumbleKind kind, std::size_t moment, std::size_t note, double score) {
        m_found.push_back(at(kind, m_facts.moments()[moment], note, score));
    }

    // A barre over seconds tires, and one that ends where an open string follows is kept.
    void barres() {
        constexpr double kLong_s = 2.0;
        for (const BarreSign& barre : m_facts.sheet().barres) {
            const double length_s = m_facts.map().timeAt(barre.to.toDouble()) -
                                    m_facts.map().timeAt(barre.from.toDouble());
            const auto next = m_facts.momentsIn(barre.to, barre.to + Rational(1, 64)).first;
            const auto first = m_facts.momentsIn(barre.from, barre.to).first;
            if (first >= m_facts.moments().size())
                continue;
            bool opens = false;
            if (next < m_facts.moments().size())
                for (const std::size_t note : m_facts.moments()[next].notes) {
                    const Position place = m_facts.plan(note).position.value;
                    opens |= place.fret == 0 && place.string >= barre.thin &&
                             place.string <= barre.thick;
                }
            if (length_s < kLong_s && !opens)
                continue;
            Stumble stumble = at(StumbleKind::LongBarre,
                                 m_facts.moments()[first],
                                 m_facts.moments()[first].notes[0],
                                 0.2 + 0.1 * length_s + (opens ? 0.3 : 0.0));
            stumble.place.fret = barre.fret;
            stumble.finger = barre.finger;
            m_found.push_back(stumble);
        }
    }

    // A finger that stays while others work.
    void holds() {
        constexpr std::size_t kMany = 3; // moments that begin meanwhile
        for (const HoldSign& hold : m_facts.sheet().holds) {
            const auto [first, last] = m_facts.momentsIn(hold.from, hold.to);
            const auto note = m_facts.piece().indexOf(hold.note);
            if (!note || last - first <= kMany)
                continue;
            Stumble stumble = at(StumbleKind::EarlyRelease,
                                 m_facts.moments()[first],
                                 *note,
                                 0.25 + 0.06 * static_cast<double>(last - first));
            stumble.finger = hold.finger;
            m_found.push_back(stumble);
        }
    }

    double gap(std::size_t m) const {
        return m_facts.moments()[m].time_s - m_facts.moments()[m - 1].time_s;
    }

    // The thumb under a tune is dropped where the tune is off the beat or comes fast; two strings
    // in a row for the thumb are grabbed with fingers.
    void thumb(std::size_t m) {
        constexpr double kFast_s = 0.35;
        const LessonMoment& moment = m_facts.moments()[m];
        const LessonMoment& before = m_facts.moments()[m - 1];
        for (const std::size_t note : moment.notes) {
            if (m_facts.plan(note).stroke.value != Stroke::P || gap(m) > kFast_s)
                continue;
            const bool off_before = before.place.part != Rational(0);
            const bool tune_before = std::ranges::any_of(before.notes, [&](std::size_t i) {
                return fingered(m_facts.plan(i).stroke.value) &&
                       m_facts.plan(i).stroke.value != Stroke::P;
            });
            if (off_before && tune_before && moment.place.part == Rational(0))
                add(StumbleKind::DroppedThumb, m, note, 0.45 + 0.5 * (kFast_s - gap(m)));
            const bool thumb_before = before.notes.size() == 1 &&
                                      m_facts.plan(before.notes[0]).stroke.value == Stroke::P &&
                                      moment.notes.size() == 1 &&
                                      m_facts.plan(before.notes[0]).position.value.string >
                                          m_facts.plan(note).position.value.string;
            if (thumb_before)
                add(StumbleKind::TemptingGrab, m, note, 0.3 + 0.6 * (kFast_s - gap(m)));
        }
    }

    // Two single strokes of a pick, one soon after the other; nothing for others.
    struct Pair {
        std::size_t note = 0;
        const NotePlan* last = nullptr;
        const NotePlan* now = nullptr;
    };
    std::optional<Pair> fastPair(std::size_t m, double within_s) const {
        const LessonMoment& moment = m_facts.moments()[m];
        const LessonMoment& before = m_facts.moments()[m - 1];
        if (moment.notes.size() != 1 || before.notes.size() != 1 || gap(m) > within_s)
            return std::nullopt;
        const Pair pair{
            moment.notes[0], &m_facts.plan(before.notes[0]), &m_facts.plan(moment.notes[0])};
        const bool known =
            pair.last->placed() && pair.now->placed() && picked(pair.now->stroke.value);
        return known ? std::optional(pair) : std::nullopt;
    }

    void skip(std::size_t m) {
        constexpr double kFast_s = 0.4;
        const auto pair = fastPair(m, kFast_s);
        if (!pair)
            return;
        const int apart =
            std::abs(pair->now->position.value.string - pair->last->position.value.string);
        if (apart < 2)
            return;
        Stumble stumble = at(StumbleKind::StringSkip,
                             m_facts.moments()[m],
                             pair->note,
                             0.15 + 0.1 * apart + 0.8 * (kFast_s - gap(m)));
        stumble.from = pair->last->position.value;
        m_found.push_back(stumble);
    }

    void turn(std::size_t m) {
        constexpr double kFast_s = 0.35;
        const auto pair = fastPair(m, kFast_s);
        if (!pair)
            return;
        // On over the strings the same way is what a sweep does.
        const int step = pair->last->position.value.string - pair->now->position.value.string;
        const Stroke stroke = pair->now->stroke.value;
        const bool sweeps =
            (stroke == Stroke::Down && step > 0) || (stroke == Stroke::Up && step < 0);
        if (stroke == pair->last->stroke.value && !sweeps)
            add(StumbleKind::StrokeTurns, m, pair->note, 0.3 + 1.5 * (kFast_s - gap(m)));
    }

    const LessonFacts& m_facts;
    std::vector<Stumble> m_found;
};

// What was seen confirms what was predicted near it, or stands for itself.
void addSeen(const LessonFacts& facts, std::vector<Stumble>& found) {
    constexpr double kNear_s = 1.0;
    for (const Observation& seen : facts.piece().lesson.observations) {
        const auto confirmed = std::ranges::find_if(found, [&](const Stumble& s) {
            return s.kind == seen.kind && s.pupils == 0 && std::abs(s.at_s - seen.at_s) < kNear_s;
        });
        if (confirmed != found.end()) {
            confirmed->pupils = seen.pupils;
            confirmed->remark = seen.remark;
            confirmed->score = 1.0;
            continue;
        }
        Stumble stumble;
        stumble.kind = StumbleKind::Seen;
        stumble.at_s = seen.at_s;
        const auto moment =
            std::ranges::lower_bound(facts.moments(), seen.at_s - 1e-3, {}, &LessonMoment::time_s);
        stumble.at = moment == facts.moments().end()
                         ? Rational(std::lround(4.0 * facts.map().quartersAt(seen.at_s)), 4)
                         : moment->start;
        stumble.score = 1.0;
        stumble.pupils = seen.pupils;
        stumble.remark = seen.remark;
        found.push_back(std::move(stumble));
    }
}

} // namespace

std::vector<Stumble> stumblesOf(const LessonFacts& facts) {
    std::vector<Stumble> found = Finder(facts).all();
    addSeen(facts, found);
    std::ranges::stable_sort(found, [](const Stumble& a, const Stumble& b) {
        return std::pair(-a.score, a.at_s) < std::pair(-b.score, b.at_s);
    });
    return found;
}

std::vector<int> pupilsByKind(const std::vector<const LessonPlan*>& plans) {
    std::vector<int> pupils(kStumbleKinds, 0);
    for (const LessonPlan* plan : plans)
        for (const Observation& seen : plan->observations)
            pupils[static_cast<std::size_t>(seen.kind)] += seen.pupils;
    return pupils;
}

} // namespace wirenote
