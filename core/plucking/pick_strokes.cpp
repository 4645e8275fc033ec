#include "plucking/pick_strokes.h"

#include "base/lazy_path.h"
#include "plucking/motion.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kNewStart_s = 0.9;   // after a rest the hand starts anew
constexpr double kFarBehind = 60.0;   // both ways are always looked at
constexpr double kNear_s = 2.0;       // what is about an attack says how it is played
constexpr double kDownsUpTo_s = 0.13; // faster than this a hand does not go down each time
constexpr double kSweepFast_s = 0.17;
constexpr std::size_t kStrum = 4; // strings of one stroke
constexpr double kStrumTrust = 0.8;
constexpr double kSet = 40.0; // a person's word

double logOdds(double p) {
    const double q = std::clamp(p, 0.01, 0.99);
    return std::log(q / (1.0 - q));
}

// Of the attacks about one, how many are damped or fifths, and the shortest step between them.
struct About {
    double riff = 0.0;
    double strums = 0.0;
    double shortest_s = 10.0;
};
About about(const PluckedLine& line, std::size_t attack) {
    About out;
    const double at_s = line.at(attack).onset_s;
    double count = 0.0;
    const auto look = [&](std::size_t i) {
        const Pluck& pluck = line.at(i);
        count += 1.0;
        out.riff += pluck.damped || pluck.fifth ? 1.0 : 0.0;
        out.strums += pluck.strings.size() >= 3 && !pluck.fifth ? 1.0 : 0.0;
    };
    for (std::size_t i = attack; i > 0 && at_s - line.at(i - 1).onset_s <= kNear_s; --i)
        look(i - 1);
    for (std::size_t i = attack; i < line.size() && line.at(i).onset_s - at_s <= kNear_s; ++i) {
        look(i);
        if (i > attack)
            out.shortest_s = std::min(out.shortest_s, line.at(i).gap_s);
    }
    out.shortest_s = std::min(out.shortest_s, line.at(attack).gap_s);
    out.riff /= count;
    out.strums /= count;
    return out;
}

// One stroke after the other, whatever the beat says.
bool inTurn(PluckingSchool school) {
    return school == PluckingSchool::Sequence || school == PluckingSchool::Economy;
}

class PickSearch {
  public:
    PickSearch(const PluckedLine& line,
               IndexSpan part,
               PluckingSchool school,
               const HandMotion& motion,
               std::span<const std::optional<bool>> set)
        : m_line(line), m_part(part), m_set(set) {
        for (std::size_t i = part.first; i < part.end; ++i) {
            Place place;
            place.school = pickSchoolAt(line, i, school);
            place.model = pickModel(place.school);
            if (!inTurn(place.school))
                place.rule = downByTheBeat(line, i, motion);
            place.metre = place.model.metre <= 0.0 ? 0.0
                          : line.at(i).notes.size() >= kStrum
                              ? std::max(logOdds(motion.trust), logOdds(kStrumTrust))
                          : line.at(i).heard && line.at(i).notes.size() > 1
                              ? std::min(place.model.metre, std::max(1.0, logOdds(motion.trust)))
                              : place.model.metre;
            m_places.push_back(place);
        }
    }

    std::vector<PickStroke> solve() {
        const auto found = LazyPath(*this, kFarBehind).marginals();
        std::vector<PickStroke> strokes;
        for (std::size_t c = 0; c < count(); ++c) {
            const bool down = found.states[c] == 0;
            const double dearer =
                found.through[c][1 - found.states[c]] - found.through[c][found.states[c]];
            const std::optional<bool> before =
                c > 0 ? std::optional(found.states[c - 1] == 0) : std::nullopt;
            strokes.push_back({down, 1.0 / (1.0 + std::exp(-dearer)), reasons(c, before, down)});
        }
        return strokes;
    }

    std::vector<std::vector<bool>> cheapest(std::size_t ways) {
        std::vector<std::vector<bool>> out;
        for (const RankedPath& path : LazyPath(*this, kFarBehind).cheapest(ways)) {
            out.emplace_back();
            for (const std::size_t state : path.states)
                out.back().push_back(state == 0);
        }
        return out;
    }

    // What LazyPath asks for: state 0 goes down, 1 up.
    std::size_t count() const { return m_part.end - m_part.first; }
    std::vector<double> make(std::size_t c, const std::vector<double>& /*cheapest*/) const {
        return {own(c, true), own(c, false)};
    }
    void keep(std::size_t, const std::vector<std::size_t>&) const {}
    struct Steps {
        const PickSearch& search;
        std::size_t c;
        double cost(std::size_t i, std::size_t j) const { return search.step(c, i == 0, j == 0); }
    };
    Steps steps(std::size_t c) const { return {*this, c}; }

  private:
    struct Place {
        PluckingSchool school = PluckingSchool::Alternate;
        PickModel model;
        std::optional<bool> rule;
        double metre = 0.0;
    };
    const Pluck& pluck(std::size_t c) const { return m_line.at(m_part.first + c); }

    double own(std::size_t c, bool down) const {
        const Place& place = m_places[c];
        const Pluck& now = pluck(c);
        double cost = 0.0;
        if (place.rule && *place.rule != down)
            cost += place.metre;
        if (now.heard)
            cost -= logOdds(now.down) * (down ? 0.5 : -0.5) - 0.5 * logOdds(0.99);
        if (!down)
            cost += upCost(c);
        if (const int length = m_line.sweep(m_part.first + c);
            length > 0 && m_line.sweepsDown(m_part.first + c) != down)
            cost += place.model.crossing_sweep / length; // the first of a run is part of it, too
        if (const auto& set = m_set[m_part.first + c]; set && *set != down)
            cost += kSet;
        return cost;
    }

    double upCost(std::size_t c) const {
        const Place& place = m_places[c];
        const Pluck& now = pluck(c);
        const double cost = place.model.up;
        if (place.rule)
            return cost;
        const bool begins = now.gap_s > kNewStart_s;
        const bool on_beat = m_line.hasBeats() && std::abs(now.beat - std::round(now.beat)) < 0.1;
        return cost + (begins ? place.model.start_up : on_beat ? place.model.onto_beat : 0.0);
    }

    // From the stroke before to this one.
    double step(std::size_t c, bool before, bool down) const {
        const Place& place = m_places[c];
        const Pluck& now = pluck(c);
        const Pluck& last = pluck(c - 1);
        if (now.gap_s > kNewStart_s)
            return 0.0;
        const bool single = now.single() && last.single() && now.string() > 0 && last.string() > 0;
        const int moved = single ? last.string() - now.string() : 0; // +: to a thinner string
        const bool along = (moved > 0) == down;
        if (std::abs(moved) == 1 && !now.slurred_into) {
            if (place.model.crossing > 0.0)
                return !along                              ? place.model.crossing
                       : before == down || evenOnString(c) ? 0.0
                                                           : place.model.crossing_turned;
            const bool in_run = m_line.sweep(m_part.first + c) > 0 &&
                                m_line.sweepsDown(m_part.first + c) == (moved > 0);
            if (in_run && place.model.crossing_sweep > 0.0)
                return along && before == down ? 0.0 : place.model.crossing_sweep;
        }
        const bool turns = before != down;
        const double turn = place.rule ? place.model.turn : place.model.turn_free;
        return turns == turnsExpected(c) ? 0.0 : turn;
    }

    // Whether an even number of notes lies on the string that is left: however it began there, the
    // pick has turned round.
    bool evenOnString(std::size_t c) const {
        const int string = pluck(c - 1).string();
        std::size_t count = 0;
        while (count < c && pluck(c - 1 - count).single() &&
               pluck(c - 1 - count).string() == string)
            ++count;
        return count % 2 == 0;
    }

    // A hand that goes on moving has turned round by the next attack, but for an even number of
    // places between.
    bool turnsExpected(std::size_t c) const {
        const Pluck& now = pluck(c);
        if (!m_line.hasBeats() || inTurn(m_places[c].school))
            return true;
        const double slot = std::min(now.slot, pluck(c - 1).slot);
        return std::max(1L, std::lround(now.beats_since / slot)) % 2 == 1;
    }

    std::vector<Reason> reasons(std::size_t c, std::optional<bool> before, bool down) const {
        const Place& place = m_places[c];
        const Pluck& now = pluck(c);
        std::vector<Reason> out;
        if (now.heard)
            out.push_back({now.seen ? ReasonKind::StrokeSeen : ReasonKind::StringsInTurn,
                           now.seen ? Basis::Seen : Basis::Heard,
                           now.down > 0.5 ? 1 : -1,
                           0,
                           std::max(now.down, 1.0 - now.down)});
        const int run = m_line.sweep(m_part.first + c);
        const bool swept = run > 0 && m_line.sweepsDown(m_part.first + c) == down &&
                           std::max(place.model.crossing_sweep, place.model.crossing) > 0.0;
        if (swept)
            out.push_back({ReasonKind::SweepsOn, Basis::Reasoned, run, 0, 0.0});
        else if (place.school == PluckingSchool::Down && down)
            out.push_back({ReasonKind::DownStrokesOnly, Basis::Reasoned, 0, 0, 0.0});
        else if (place.rule == down && place.model.metre > 0.5)
            out.push_back({ReasonKind::AlternatesOnBeat, Basis::Reasoned, 0, 0, 0.0});
        else if (before && *before != down)
            out.push_back({ReasonKind::TakesTurns, Basis::Reasoned, 0, 0, 0.0});
        return out;
    }

    const PluckedLine& m_line;
    IndexSpan m_part;
    std::span<const std::optional<bool>> m_set;
    std::vector<Place> m_places;
};

} // namespace

PluckingSchool pickSchoolAt(const PluckedLine& line, std::size_t attack, PluckingSchool school) {
    if (school == PluckingSchool::Down && line.at(attack).gap_s < kDownsUpTo_s)
        return PluckingSchool::Alternate; // no hand goes down so often
    if (school != PluckingSchool::Unknown)
        return school;
    if (line.sweep(attack) >= 3) {
        double step_s = line.at(attack).gap_s; // to the run's first note it may be anything
        if (attack + 1 < line.size() && line.sweep(attack + 1) > 0)
            step_s = std::min(step_s, line.at(attack + 1).gap_s);
        if (step_s < kSweepFast_s)
            return PluckingSchool::Sweep;
    }
    const About near = about(line, attack);
    if (near.riff > 0.6 && near.shortest_s >= kDownsUpTo_s)
        return PluckingSchool::Down;
    return near.strums > 0.3 ? PluckingSchool::Strum : PluckingSchool::Alternate;
}

std::vector<PickStroke> pickStrokes(const PluckedLine& line,
                                    IndexSpan part,
                                    PluckingSchool school,
                                    const HandMotion& motion,
                                    std::span<const std::optional<bool>> set) {
    return PickSearch(line, part, school, motion, set).solve();
}

std::vector<std::vector<bool>> pickWays(const PluckedLine& line,
                                        IndexSpan part,
                                        PluckingSchool school,
                                        const HandMotion& motion,
                                        std::span<const std::optional<bool>> set,
                                        std::size_t count) {
    return PickSearch(line, part, school, motion, set).cheapest(count);
}

} // namespace wirenote
