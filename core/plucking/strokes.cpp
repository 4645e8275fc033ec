#include "plucking/strokes.h"

#include "plucking/finger_strokes.h"
#include "plucking/motion.h"
#include "plucking/pick_strokes.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <iterator>
#include <set>

namespace wirenote {
namespace {

constexpr std::size_t kEnoughForTool = 8; // notes; fewer are asked again with what comes
constexpr std::array kFingers = {Stroke::M, Stroke::A, Stroke::C};
constexpr double kFingerTrust = 0.6; // middle or ring finger beside a pick

// How often a stroke so chosen is right, as the log odds of what the costs say.
struct Belief {
    double from = 0.0;
    double slope = 1.0;
    double most = 0.985;
};
constexpr Belief kPickBelief{1.3, 1.0, 0.99};
constexpr Belief kFingerBelief{2.0, 0.9, 0.99};
// Two fingers in turn: one note taken for a slur, or a slur for a stroke, turns all that follows.
constexpr Belief kTurnsBelief{0.5, 0.7, 0.9};
constexpr Belief kGivenTurnsBelief{1.8, 0.9, 0.97}; // of notes that nobody had to hear
constexpr double kSlurTrust = 0.85;

double believed(double said, const Belief& belief) {
    const double odds =
        std::log(std::clamp(said, 1e-6, 1.0 - 1e-6) / (1.0 - std::clamp(said, 1e-6, 1.0 - 1e-6)));
    return std::min(belief.most, 1.0 / (1.0 + std::exp(-(belief.from + belief.slope * odds))));
}

Decision<Stroke> decided(Stroke value, double said, const Belief& belief) {
    Decision<Stroke> stroke;
    stroke.value = value;
    stroke.probability = believed(said, belief);
    return stroke;
}

// Strokes of the notes [write.first, write.end) of some rows; the others are as they are.
class Plucking {
  public:
    Plucking(const PluckedLine& line, IndexSpan write, bool keep_others)
        : m_line(line), m_rows(line.rows()), m_write(write), m_keep_others(keep_others),
          m_heard(std::ranges::any_of(
              line.rows().notes(), [](const Note& note) { return note.heard().attack.told(); })) {
        for (const NotePlan& plan : m_rows.plans())
            m_strokes.push_back(plan.stroke);
    }

    std::vector<Decision<Stroke>> by(const Decision<PluckingSchool>& school,
                                     const HandMotion& motion) {
        for (std::size_t i = m_write.first; i < m_write.end; ++i)
            if (m_rows[i].note.slurred())
                give(i,
                     {Stroke::None,
                      Basis::Reasoned,
                      kSlurTrust,
                      {},
                      {{ReasonKind::NotStruck, Basis::Reasoned, 0, 0, 0.0}}});
        if (isOfFingers(school.value))
            withFingers(school.value);
        else
            withPick(school, motion);
        return {m_strokes.begin() + static_cast<std::ptrdiff_t>(m_write.first),
                m_strokes.begin() + static_cast<std::ptrdiff_t>(m_write.end)};
    }

    // The strokes of what is written by the best ways as a whole, best first.
    std::vector<std::vector<Stroke>>
    ways(const Decision<PluckingSchool>& school, const HandMotion& motion, std::size_t count) {
        std::vector<Stroke> now; // where the ways do not differ
        for (const Decision<Stroke>& stroke : by(school, motion))
            now.push_back(stroke.value);
        return isOfFingers(school.value) ? waysOfFingers(school.value, now, count)
                                         : waysOfPick(school, motion, now, count);
    }

  private:
    static bool isOfFingers(PluckingSchool school) {
        return toolOf(school) == PluckingTool::Fingers;
    }
    // What nobody may change, of each note of the line.
    std::vector<std::optional<Stroke>> bound() const {
        std::vector<std::optional<Stroke>> set(m_rows.size());
        for (std::size_t n = 0; n < m_rows.size(); ++n)
            if (binds(n))
                set[n] = m_strokes[n].value;
        return set;
    }
    // `now` with the strokes of one way: `strokeAt(k, n, is)` of note n of attack k.
    template <class StrokeAt>
    std::vector<Stroke>
    wayOf(IndexSpan part, std::vector<Stroke> way, const StrokeAt& strokeAt) const {
        for (std::size_t k = 0; k < part.size(); ++k)
            for (std::size_t n = 0; n < m_line.at(part.first + k).notes.size(); ++n)
                if (const std::size_t note = m_line.at(part.first + k).notes[n]; writes(note)) {
                    Stroke& stroke = way[note - m_write.first];
                    stroke = strokeAt(k, n, stroke);
                }
        return way;
    }

    std::vector<std::vector<Stroke>>
    waysOfFingers(PluckingSchool school, const std::vector<Stroke>& now, std::size_t count) const {
        std::vector<std::vector<Stroke>> out;
        const IndexSpan part = attacks();
        for (const auto& way : fingerWays(m_line, part, school, bound(), count))
            out.push_back(wayOf(part, now, [&way](std::size_t k, std::size_t n, Stroke is) {
                return way[k][n] == Stroke::Unknown ? is : way[k][n];
            }));
        return out;
    }

    std::vector<std::vector<Stroke>> waysOfPick(const Decision<PluckingSchool>& school,
                                                const HandMotion& motion,
                                                const std::vector<Stroke>& now,
                                                std::size_t count) const {
        const bool with_fingers = school.value == PluckingSchool::Hybrid;
        const bool free = !school.isSet() || with_fingers;
        std::vector<std::vector<Stroke>> out;
        const IndexSpan part = attacks();
        for (const auto& way : pickWays(m_line,
                                        part,
                                        free ? PluckingSchool::Unknown : school.value,
                                        motion,
                                        setDirections(with_fingers),
                                        count))
            out.push_back(wayOf(part, now, [&way](std::size_t k, std::size_t, Stroke is) {
                const bool picked = is == Stroke::Down || is == Stroke::Up;
                return !picked ? is : way[k] ? Stroke::Down : Stroke::Up;
            }));
        return out;
    }

    bool writes(std::size_t i) const {
        return i >= m_write.first && i < m_write.end && !m_strokes[i].isSet();
    }
    void give(std::size_t i, Decision<Stroke> stroke) {
        if (writes(i))
            m_strokes[i] = std::move(stroke);
    }
    // What is not to be changed: a person's word, and what lies about the part.
    bool binds(std::size_t i) const {
        return m_strokes[i].isSet() || (m_keep_others && (i < m_write.first || i >= m_write.end) &&
                                        m_strokes[i].value != Stroke::Unknown);
    }

    // The attacks of what is written, and some about it.
    IndexSpan attacks() const {
        const auto in = [this](const Pluck& pluck, std::size_t spare) {
            return pluck.notes.back() + spare >= m_write.first &&
                   pluck.notes.front() < m_write.end + spare;
        };
        const std::size_t spare = m_keep_others ? kStrokeContext : 0;
        std::size_t first = 0;
        while (first < m_line.size() && !in(m_line.at(first), spare))
            ++first;
        std::size_t end = first;
        while (end < m_line.size() && in(m_line.at(end), spare))
            ++end;
        return {first, end};
    }

    // Which attacks are known to go down or up before anything is asked.
    std::vector<std::optional<bool>> setDirections(bool with_fingers) const {
        std::vector<std::optional<bool>> set(m_line.size());
        for (std::size_t i = 0; i < m_line.size(); ++i) {
            if (with_fingers && plucks(m_line.at(i)))
                set[i] = true;
            for (const std::size_t n : m_line.at(i).notes)
                if (const Stroke stroke = m_strokes[n].value;
                    binds(n) && (stroke == Stroke::Down || stroke == Stroke::Up))
                    set[i] = stroke == Stroke::Down;
        }
        return set;
    }

    void withPick(const Decision<PluckingSchool>& school, const HandMotion& motion) {
        const bool with_fingers = school.value == PluckingSchool::Hybrid;
        const bool free = !school.isSet() || with_fingers;
        const IndexSpan part = attacks();
        const auto found = pickStrokes(m_line,
                                       part,
                                       free ? PluckingSchool::Unknown : school.value,
                                       motion,
                                       setDirections(with_fingers));
        for (std::size_t k = 0; k < found.size(); ++k) {
            const Pluck& pluck = m_line.at(part.first + k);
            const Decision<Stroke> stroke = pickDecision(pluck, found[k]);
            for (const std::size_t n : pluck.notes)
                give(n, stroke);
            if (with_fingers && plucks(pluck))
                fingersAbove(pluck, pickIsBelow(part.first + k));
        }
        if (with_fingers)
            brokenChords(part);
    }

    static Decision<Stroke> pickDecision(const Pluck& pluck, const PickStroke& way) {
        constexpr double kClear = 0.3; // off even
        Decision<Stroke> stroke =
            decided(way.down ? Stroke::Down : Stroke::Up, way.probability, kPickBelief);
        stroke.runners_up = {{way.down ? Stroke::Up : Stroke::Down, 1.0 - stroke.probability}};
        stroke.reasons = way.reasons;
        const bool by_ear = pluck.heard && !pluck.by_times && (pluck.down > 0.5) == way.down &&
                            std::abs(pluck.down - 0.5) > kClear;
        stroke.basis = !by_ear ? Basis::Reasoned : pluck.seen ? Basis::Seen : Basis::Heard;
        return stroke;
    }

    // Whether an attack sounds on under the next one, on another string.
    bool ringsInto(std::size_t i) const {
        constexpr double kOver_s = 0.05;
        return m_line.at(i).string() != m_line.at(i + 1).string() &&
               m_rows[m_line.at(i).notes.front()].note.offset_s() >
                   m_line.at(i + 1).onset_s + kOver_s;
    }

    // One string after the other, each left ringing: the pick has the thickest of them, a finger
    // each of the others (common practice).
    void brokenChords(IndexSpan part) {
        std::size_t first = part.first;
        while (first < part.end) {
            std::set<int> strings;
            std::size_t end = first;
            while (end < part.end && m_line.at(end).single() && m_line.at(end).string() > 0 &&
                   (end == first || ringsInto(end - 1)))
                strings.insert(m_line.at(end++).string());
            constexpr std::size_t kFewest = 3;
            for (std::size_t i = first; i < end; ++i) {
                if (end - first < kFewest || strings.size() < 2 || strings.size() > 4)
                    break;
                const int string = m_line.at(i).string();
                const auto above = std::distance(strings.find(string), strings.end()) - 1;
                Decision<Stroke> stroke;
                stroke.value =
                    above == 0 ? Stroke::Down : kFingers[static_cast<std::size_t>(above) - 1];
                stroke.probability = kFingerTrust;
                stroke.reasons = {{ReasonKind::FingerPerString, Basis::Reasoned, string, 0, 0.0}};
                give(m_line.at(i).notes.front(), std::move(stroke));
            }
            first = std::max(end, first + 1);
        }
    }

    // Two strings apart, or up to four taken at the same moment: not what one pick does.
    static bool plucks(const Pluck& pluck) {
        constexpr double kAtOnce_s = 0.004;
        const auto strings = static_cast<double>(pluck.strings.size());
        return pluck.skips() || (pluck.strings.size() > 1 && pluck.strings.size() <= 4 &&
                                 pluck.spread_s < kAtOnce_s * (strings - 1.0));
    }

    // Whether the pick has just struck a string well below what is plucked now, and stays there:
    // over a pedal the fingers have a double stop to themselves (common practice).
    bool pickIsBelow(std::size_t i) const {
        constexpr int kFarBelow = 2; // strings
        constexpr double kSoon_s = 0.75;
        if (i == 0 || !m_line.at(i - 1).single())
            return false;
        const Pluck& before = m_line.at(i - 1);
        const Pluck& now = m_line.at(i);
        return now.onset_s - before.onset_s < kSoon_s &&
               before.string() >= now.string() + kFarBelow;
    }

    // The pick keeps the thickest string, where it is there; middle, ring and little finger have
    // the others.
    void fingersAbove(const Pluck& pluck, bool pick_is_below) {
        std::vector<std::size_t> notes = pluck.notes;
        std::ranges::sort(notes, std::greater<>{}, [this](std::size_t n) {
            return m_rows[n].plan.position.value.string;
        });
        const std::size_t first = pick_is_below && notes.size() <= kFingers.size() ? 0 : 1;
        for (std::size_t k = first; k < notes.size(); ++k) {
            const int string = m_rows[notes[k]].plan.position.value.string;
            give(notes[k],
                 {kFingers[std::min(k - first, kFingers.size() - 1)],
                  Basis::Reasoned,
                  kFingerTrust,
                  {},
                  {{ReasonKind::FingerPerString, Basis::Reasoned, string, 0, 0.0}}});
        }
    }

    void withFingers(PluckingSchool school) {
        const IndexSpan part = attacks();
        const auto found = fingerStrokes(m_line, part, school, bound());
        for (std::size_t k = 0; k < found.size(); ++k) {
            const Pluck& pluck = m_line.at(part.first + k);
            for (std::size_t n = 0; n < pluck.notes.size(); ++n) {
                const FingerStroke& way = found[k][n];
                if (way.stroke == Stroke::Unknown)
                    continue;
                const bool in_turn = way.reasons.front().kind == ReasonKind::FingersAlternate;
                Decision<Stroke> stroke = decided(way.stroke,
                                                  way.probability,
                                                  !in_turn  ? kFingerBelief
                                                  : m_heard ? kTurnsBelief
                                                            : kGivenTurnsBelief);
                const double left =
                    (1.0 - stroke.probability) / std::max(1e-9, 1.0 - way.probability);
                for (const auto& other : way.others)
                    stroke.runners_up.push_back({other.value, other.probability * left});
                stroke.reasons = way.reasons;
                stroke.basis = way.reasons.front().basis;
                give(pluck.notes[n], std::move(stroke));
            }
        }
    }

    const PluckedLine& m_line;
    Rows m_rows;
    IndexSpan m_write;
    bool m_keep_others;
    bool m_heard;
    std::vector<Decision<Stroke>> m_strokes;
};

// Tool and school as they are to be used; kept where they are known or enough notes were asked.
Stroking asked(const PluckedLine& line, const ReadingHead& head) {
    Stroking now{{}, head.tool, head.plucking_school, {}};
    if (now.tool.value == PluckingTool::Unknown)
        now.tool = likelyTool(line);
    if (now.school.value == PluckingSchool::Unknown)
        now.school = {
            likelySchool(now.tool.value, line), Basis::Reasoned, now.tool.probability, {}, {}};
    return now;
}

// What so few notes say is not kept.
void keepIfEnough(const Rows& rows, const ReadingHead& head, Stroking& now) {
    if (rows.size() >= kEnoughForTool)
        return;
    now.tool = head.tool;
    now.school = head.plucking_school;
}

} // namespace

Stroking strokes(const Instrument& instrument,
                 const Timeline& timeline,
                 const Rows& rows,
                 const ReadingHead& head) {
    const PluckedLine line(instrument, timeline, rows);
    Stroking now = asked(line, head);
    now.motion = motionHeard(line);
    now.strokes = Plucking(line, {0, rows.size()}, false).by(now.school, *now.motion);
    keepIfEnough(rows, head, now);
    return now;
}

Stroking strokesOfPart(const Instrument& instrument,
                       const Timeline& timeline,
                       const Rows& rows,
                       const ReadingHead& head,
                       IndexSpan part) {
    const PluckedLine line(instrument, timeline, rows);
    Stroking now = asked(line, head);
    now.motion = head.motion ? *head.motion : motionHeard(line);
    now.strokes = Plucking(line, part, true).by(now.school, *now.motion);
    keepIfEnough(rows, head, now);
    return now;
}

std::vector<std::vector<Stroke>> strokeWays(const Instrument& instrument,
                                            const Timeline& timeline,
                                            const Rows& rows,
                                            const ReadingHead& head,
                                            IndexSpan part,
                                            std::size_t count) {
    const PluckedLine line(instrument, timeline, rows);
    const Stroking now = asked(line, head);
    const HandMotion motion = head.motion ? *head.motion : motionHeard(line);
    return Plucking(line, part, true).ways(now.school, motion, count);
}

} // namespace wirenote
