#include "plucking/finger_strokes.h"

#include "base/lazy_path.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numeric>

namespace wirenote {
namespace {

constexpr double kNewStart_s = 1.6; // after a rest the fingers start anew
constexpr double kFarBehind = 14.0;
constexpr double kFast_s = 0.15; // from note to note of one finger: it can hardly come again …
constexpr double kSlow_s = 0.9;  // … and here it well can
constexpr double kSet = 40.0;    // a person's word
constexpr double kAbout_s = 1.5; // strings used about an attack
constexpr std::size_t kMostNotes = 12;
constexpr std::size_t kMostStates = 24; // of them few differ in more than what lies far back

// 0 the thumb, then index, middle, ring and little finger.
using Digit = std::int8_t;
constexpr Digit kThumb = 0;
constexpr Digit kIndex = 1;
constexpr Digit kMiddle = 2;
constexpr Digit kRing = 3;
constexpr Digit kLittle = 4;

Stroke strokeOf(Digit digit) {
    constexpr std::array kStrokes = {Stroke::P, Stroke::I, Stroke::M, Stroke::A, Stroke::C};
    return kStrokes[static_cast<std::size_t>(digit)];
}

std::vector<std::size_t> byCost(const std::vector<double>& costs) {
    std::vector<std::size_t> order(costs.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::ranges::stable_sort(order, {}, [&costs](std::size_t i) { return costs[i]; });
    return order;
}

struct FingerState {
    std::array<Digit, kMostNotes> digits{}; // of the notes, the thickest string first
    Digit last = -1;                        // the finger, not the thumb, that played last …
    std::int8_t last_string = 0;            // … and where
    std::int32_t last_attack = -1;
    bool one_finger = false; // alone in its attack
};

class FingerSearch {
  public:
    FingerSearch(const PluckedLine& line,
                 IndexSpan part,
                 PluckingSchool school,
                 std::span<const std::optional<Stroke>> set)
        : m_line(line), m_part(part), m_set(set),
          m_model(fingerModel(school, line.instrument().isBass())), m_school(school),
          m_states(part.end - part.first) {
        for (std::size_t i = part.first; i < part.end; ++i) {
            m_order.push_back(orderOf(line.at(i)));
            m_lowered.push_back(setLowered(i));
        }
        for (std::size_t c = 0; c < count(); ++c)
            m_tremolo.push_back(tremoloAt(c));
    }

    std::vector<std::vector<FingerStroke>> solve() {
        const auto found = LazyPath(*this, kFarBehind).marginals();
        std::vector<std::vector<FingerStroke>> out;
        for (std::size_t c = 0; c < count(); ++c)
            out.push_back(strokesAt(c, found.states[c], found.through[c]));
        return out;
    }

    // What LazyPath asks for.
    std::size_t count() const { return m_states.size(); }
    std::vector<double> make(std::size_t c, const std::vector<double>& cheapest) {
        m_states[c].clear();
        for (const auto& digits : waysFor(c)) {
            FingerState state;
            state.digits = digits;
            addTo(c, state, cheapest);
        }
        std::vector<double> costs;
        for (const FingerState& state : m_states[c])
            costs.push_back(ownCost(c, state));
        return costs;
    }
    void keep(std::size_t c, const std::vector<std::size_t>& kept) {
        for (std::size_t k = 0; k < kept.size(); ++k)
            m_states[c][k] = m_states[c][kept[k]];
        m_states[c].resize(kept.size());
    }
    struct Steps {
        const FingerSearch& search;
        std::size_t c;
        double cost(std::size_t i, std::size_t j) const {
            return search.step(c, search.m_states[c - 1][i], search.m_states[c][j]);
        }
    };
    Steps steps(std::size_t c) const { return {*this, c}; }

    using Way = std::vector<std::vector<Stroke>>; // of the attacks and their notes
    std::vector<Way> cheapest(std::size_t count) {
        constexpr std::size_t kAlike = 6; // ways that differ in what they remember only
        std::vector<Way> ways;
        for (const RankedPath& path : LazyPath(*this, kFarBehind).cheapest(kAlike * count)) {
            Way way;
            for (std::size_t c = 0; c < this->count(); ++c)
                way.push_back(strokesOf(c, path.states[c]));
            if (std::ranges::find(ways, way) == ways.end())
                ways.push_back(std::move(way));
            if (ways.size() == count)
                break;
        }
        return ways;
    }

  private:
    std::vector<Stroke> strokesOf(std::size_t c, std::size_t state) const {
        const auto& notes = pluck(c).notes;
        std::vector<Stroke> out(notes.size(), Stroke::Unknown);
        for (std::size_t k = 0; k < m_order[c].size(); ++k) {
            const auto at = std::ranges::find(notes, m_order[c][k]) - notes.begin();
            out[static_cast<std::size_t>(at)] = strokeOf(m_states[c][state].digits[k]);
        }
        return out;
    }

    using Digits = std::array<Digit, kMostNotes>;
    const Pluck& pluck(std::size_t c) const { return m_line.at(m_part.first + c); }
    int stringOf(std::size_t note) const {
        const int string = m_line.rows()[note].plan.position.value.string;
        return string > 0 ? string : 1;
    }
    bool bass() const { return m_line.instrument().isBass(); }

    // The notes of an attack, the thickest string first; more than a hand has are left to the rest.
    std::vector<std::size_t> orderOf(const Pluck& pluck) const {
        auto notes = pluck.notes;
        std::ranges::stable_sort(
            notes, std::ranges::greater{}, [this](std::size_t n) { return stringOf(n); });
        if (notes.size() > kMostNotes)
            notes.resize(kMostNotes);
        return notes;
    }

    // Whether the fingers lie one string lower from bass note to bass note: the thinnest string is
    // not used, the fourth is.
    bool setLowered(std::size_t i) const {
        const auto thick = [this](const Pluck& pluck) {
            return !pluck.strings.empty() &&
                   m_line.instrument().stringCount() - pluck.strings.front() < 2;
        };
        std::size_t from = i;
        while (from > 0 && !thick(m_line.at(from)) &&
               m_line.at(i).onset_s - m_line.at(from).onset_s < kAbout_s)
            --from;
        unsigned used = 0;
        int bass = 0;
        int between = 0;
        for (std::size_t k = from; k < m_line.size(); ++k) {
            if (k > i &&
                (thick(m_line.at(k)) || m_line.at(k).onset_s - m_line.at(i).onset_s > kAbout_s))
                break;
            for (const int string : m_line.at(k).strings) {
                used |= 1U << static_cast<unsigned>(string);
                if (string == 4) // on the beat it is a bass, as the thumb has it
                    ++(onBeat(m_line.at(k)) ? bass : between);
            }
        }
        const auto has = [used](int string) {
            return ((used >> static_cast<unsigned>(string)) & 1U) != 0;
        };
        return !has(1) && has(2) && has(3) && between > bass && (has(5) || has(6));
    }

    // The thumb on the thickest strings, then fingers in their order.
    std::vector<Digits> waysFor(std::size_t c) const {
        const std::size_t notes = m_order[c].size();
        std::vector<Digits> ways;
        Digits digits{};
        const auto extend = [&](const auto& self, std::size_t at, Digit next) -> void {
            if (at == notes) {
                ways.push_back(digits);
                return;
            }
            for (Digit digit = next; digit <= kLittle; ++digit) {
                digits[at] = digit;
                self(self, at + 1, static_cast<Digit>(digit + 1));
            }
        };
        // All further thumbs of a way lie on the thickest strings.
        for (std::size_t thumbs = 0; thumbs <= notes; ++thumbs) {
            std::fill_n(digits.begin(), thumbs, kThumb);
            if (notes - thumbs <= 4)
                extend(extend, thumbs, kIndex);
        }
        return ways;
    }

    // The state after each of those before, as far as they differ for what comes.
    void addTo(std::size_t c, FingerState state, const std::vector<double>& cheapest) {
        auto& states = m_states[c];
        const std::size_t notes = m_order[c].size();
        const Digit top = notes > 0 ? state.digits[notes - 1] : kThumb;
        if (top != kThumb) {
            std::size_t fingers = 0;
            for (std::size_t k = 0; k < notes; ++k)
                fingers += state.digits[k] != kThumb ? 1 : 0;
            state.last = top;
            state.last_string = static_cast<std::int8_t>(stringOf(m_order[c][notes - 1]));
            state.last_attack = static_cast<std::int32_t>(c);
            state.one_finger = fingers == 1;
            states.push_back(state);
            return;
        }
        if (c == 0) {
            states.push_back(state);
            return;
        }
        for (const std::size_t i : byCost(cheapest)) {
            if (states.size() >= kMostStates)
                break;
            const FingerState& before = m_states[c - 1][i];
            FingerState after = state;
            after.last = before.last;
            after.last_string = before.last_string;
            after.last_attack = before.last_attack;
            after.one_finger = before.one_finger;
            const bool known = std::ranges::any_of(states, [&after](const FingerState& s) {
                return s.digits == after.digits && s.last == after.last &&
                       s.last_attack == after.last_attack;
            });
            if (!known)
                states.push_back(after);
        }
    }

    // The finger of a string by habit: i, m, a from the third string on, or one string lower.
    Digit habitOf(std::size_t c, int string) const {
        if (m_school == PluckingSchool::Thumb)
            return string <= 1 ? kMiddle : kIndex;
        const int as = string - (m_lowered[c] ? 1 : 0);
        return as <= 1 ? kRing : as == 2 ? kMiddle : kIndex;
    }

    bool onBeat(const Pluck& pluck) const {
        constexpr double kOnBeat = 0.12; // of a beat
        return m_line.hasBeats() && std::abs(pluck.beat - std::round(pluck.beat)) < kOnBeat;
    }

    double thumbCost(std::size_t c, int string) const {
        if (m_school == PluckingSchool::Slap)
            return string >= 3 ? 0.0 : 3.0;
        if (!m_model.thumb_has_bass)
            return 4.0;
        const int strings = m_line.instrument().stringCount();
        const int from_thick = strings - string; // 0: the thickest
        if (from_thick < 2)
            return 0.0;
        if (m_line.onBass(string))
            return m_lowered[c] ? m_model.thumb_high : m_model.thumb_on_fourth;
        return m_model.thumb_high * std::max(1, from_thick - 2) +
               (onBeat(pluck(c)) ? 0.0 : m_model.thumb_off_beat);
    }

    double fingerOn(std::size_t c, int string, Digit digit) const {
        double cost = digit == kLittle ? m_model.little : 0.0;
        if (m_school == PluckingSchool::Slap)
            return cost + (string <= 2 ? (digit == kIndex ? 0.0 : 0.6) : 3.0);
        if (m_tremolo[c] != kNoTremolo)
            return cost + (digit == m_tremolo[c] ? 0.0 : m_model.tremolo);
        const bool chord = pluck(c).rings || forFingers(c) > 1;
        if (m_model.thumb_has_bass)
            cost += onThick(c, string) + (chord ? m_model.habit : m_model.habit_alone) *
                                             std::abs(digit - habitOf(c, string));
        if (pluck(c).single() && string >= 3 && onBeat(pluck(c)))
            cost += m_model.finger_on_beat;
        return chord && m_model.thumb_has_bass ? cost : cost + turnCost(c, digit);
    }

    // How many strings of an attack are not the thumb's.
    std::size_t forFingers(std::size_t c) const {
        constexpr double kThumbs = 0.5; // up to this a string is the thumb's
        return static_cast<std::size_t>(std::ranges::count_if(
            m_order[c], [&](std::size_t n) { return thumbCost(c, stringOf(n)) > kThumbs; }));
    }

    // A finger where the thumb plays.
    double onThick(std::size_t c, int string) const {
        const int from_thick = m_line.instrument().stringCount() - string;
        const double as_run = inFastRun(c) ? m_model.finger_in_run : 1.0;
        if (from_thick < 2)
            return m_model.finger_on_bass * as_run;
        return from_thick == 2 && !m_lowered[c] ? m_model.finger_on_fourth * as_run : 0.0;
    }

    // Of those who take turns the second seldom has the first beat of a bar.
    double turnCost(std::size_t c, Digit digit) const {
        if (digit == kIndex + m_model.first)
            return 0.0;
        if (digit == kIndex + m_model.second)
            return pluck(c).downbeat ? m_model.downbeat_middle : 0.0;
        return m_model.ring_in_tune;
    }

    // A single note on the thick strings that follows another too fast for the thumb.
    bool inFastRun(std::size_t c) const {
        const auto thick = [this](std::size_t at) {
            return m_order[at].size() == 1 && m_line.onBass(stringOf(m_order[at][0]));
        };
        return c > 0 && thick(c - 1) && thick(c) && pluck(c).gap_s < m_model.thumb_fast_s;
    }

    // A note that is struck three times quickly after the thumb is for a, m and i (tremolo).
    static constexpr Digit kNoTremolo = -1;
    Digit tremoloAt(std::size_t c) const {
        constexpr double kFastest_s = 0.2;
        const auto again = [&](std::size_t at) { // the note before once more
            return at > 0 && at < count() && pluck(at).single() && pluck(at - 1).single() &&
                   pluck(at).gap_s < kFastest_s &&
                   m_line.rows()[m_order[at][0]].note.frettedMidi() ==
                       m_line.rows()[m_order[at - 1][0]].note.frettedMidi();
        };
        std::size_t before = 0;
        while (before < 3 && c >= before && again(c - before))
            ++before;
        std::size_t after = 0;
        while (after < 3 && again(c + after + 1))
            ++after;
        if (before + after != 2 || !m_model.thumb_has_bass || c <= before ||
            m_line.onBass(stringOf(m_order[c][0])) ||
            !m_line.onBass(stringOf(m_order[c - before - 1].front())))
            return kNoTremolo;
        return static_cast<Digit>(kRing - static_cast<Digit>(before));
    }

    double ownCost(std::size_t c, const FingerState& state) const {
        double cost = 0.0;
        std::size_t thumbs = 0;
        for (std::size_t k = 0; k < m_order[c].size(); ++k) {
            const int string = stringOf(m_order[c][k]);
            const Digit digit = state.digits[k];
            cost += digit == kThumb ? thumbCost(c, string) : fingerOn(c, string, digit);
            cost += pluck(c).against[static_cast<std::size_t>(digit)];
            thumbs += digit == kThumb ? 1 : 0;
            if (const auto& set = m_set[m_order[c][k]]; set && *set != strokeOf(digit))
                cost += kSet;
        }
        if (thumbs > 1)
            cost += m_model.thumb_two * static_cast<double>(thumbs - 1);
        return cost;
    }

    // How much of `fast` a pause of so long leaves of it.
    static double hurried(double gap_s) {
        return std::clamp((kSlow_s - gap_s) / (kSlow_s - kFast_s), 0.0, 1.0);
    }

    double step(std::size_t c, const FingerState& from, const FingerState& to) const {
        const Pluck& now = pluck(c);
        const std::size_t notes = m_order[c].size();
        const bool fingers = to.last_attack == static_cast<std::int32_t>(c);
        if (!fingers && (from.last != to.last || from.last_attack != to.last_attack))
            return std::numeric_limits<double>::infinity(); // not what this state remembers
        double cost = thumbStep(c, from, to);
        if (!fingers)
            return cost;
        const bool begins =
            from.last < 0 || now.onset_s - pluck(attackOf(from)).onset_s > kNewStart_s;
        if (begins) {
            const bool second = to.one_finger && to.last == kIndex + m_model.second;
            return cost + (second ? m_model.start_middle : 0.0);
        }
        const double quick = hurried(now.onset_s - pluck(attackOf(from)).onset_s);
        const int string = stringOf(m_order[c][notes - 1]);
        if (to.one_finger && from.one_finger) {
            if (to.last == from.last) {
                const bool held = now.rings && pluck(attackOf(from)).rings &&
                                  attackOf(from) + 1 < c && string == from.last_string;
                cost += (m_model.again_slow + (m_model.again - m_model.again_slow) * quick) *
                        (held ? m_model.again_held : 1.0);
            } else if ((to.last > from.last) != (string < from.last_string) &&
                       string != from.last_string) {
                cost += m_model.awkward;
            }
        }
        return cost;
    }

    std::size_t attackOf(const FingerState& state) const {
        return static_cast<std::size_t>(state.last_attack);
    }

    // The thumb twice in a row, and where a run on the thick strings goes over to the fingers.
    double thumbStep(std::size_t c, const FingerState& from, const FingerState& to) const {
        const Pluck& now = pluck(c);
        const auto alone = [this](std::size_t at, const FingerState& state, bool thumb) {
            return m_order[at].size() == 1 && (state.digits[0] == kThumb) == thumb &&
                   m_line.instrument().stringCount() - stringOf(m_order[at][0]) < 3;
        };
        if (!m_model.thumb_has_bass || m_order[c].empty() || m_order[c - 1].empty())
            return 0.0;
        if (alone(c, to, true) && alone(c - 1, from, true) && now.gap_s < m_model.thumb_fast_s)
            return m_model.thumb_again * 2.0 *
                   std::min(1.0, (m_model.thumb_fast_s - now.gap_s) / m_model.thumb_fast_s * 2.0);
        if ((alone(c, to, true) && alone(c - 1, from, false)) ||
            (alone(c, to, false) && alone(c - 1, from, true)))
            return m_model.thumb_swap;
        return 0.0;
    }

    std::vector<FingerStroke>
    strokesAt(std::size_t c, std::size_t chosen, const std::vector<double>& through) const {
        const Pluck& now = pluck(c);
        std::vector<FingerStroke> out(now.notes.size());
        const auto& order = m_order[c];
        for (std::size_t k = 0; k < order.size(); ++k) {
            const auto at = std::ranges::find(now.notes, order[k]) - now.notes.begin();
            FingerStroke& stroke = out[static_cast<std::size_t>(at)];
            std::array<double, 5> weights{};
            for (std::size_t s = 0; s < through.size(); ++s) {
                double& weight = weights[static_cast<std::size_t>(m_states[c][s].digits[k])];
                weight = std::max(weight, std::exp(through[chosen] - through[s]));
            }
            double sum = 0.0;
            for (const double weight : weights)
                sum += weight;
            const Digit digit = m_states[c][chosen].digits[k];
            stroke.stroke = strokeOf(digit);
            stroke.probability = weights[static_cast<std::size_t>(digit)] / sum;
            for (Digit other = kThumb; other <= kLittle; ++other)
                if (other != digit && weights[static_cast<std::size_t>(other)] / sum > 0.02)
                    stroke.others.push_back(
                        {strokeOf(other), weights[static_cast<std::size_t>(other)] / sum});
            stroke.reasons = {reason(c, stringOf(order[k]), digit)};
        }
        return out;
    }

    Reason reason(std::size_t c, int string, Digit digit) const {
        const Pluck& now = pluck(c);
        constexpr double kClear = 1.0; // against the finger that fits least
        const auto& against = now.against;
        if (against[static_cast<std::size_t>(digit)] == 0.0 &&
            *std::ranges::max_element(against) > kClear)
            return {ReasonKind::StrokeSeen, Basis::Seen, 0, digit + 1, 0.0};
        if (digit == kThumb)
            return {ReasonKind::ThumbHasBass, Basis::Reasoned, string, 0, 0.0};
        if (m_model.thumb_has_bass && m_line.instrument().stringCount() - string < 3 &&
            now.gap_s < m_model.thumb_fast_s)
            return {ReasonKind::ThumbTooSlow, Basis::Reasoned, 0, 0, 1.0 / now.gap_s};
        const bool by_string = m_model.thumb_has_bass && (now.rings || now.notes.size() > 1 ||
                                                          m_school == PluckingSchool::Thumb);
        return {by_string ? ReasonKind::FingerPerString : ReasonKind::FingersAlternate,
                Basis::Reasoned,
                string,
                0,
                0.0};
    }

    const PluckedLine& m_line;
    IndexSpan m_part;
    std::span<const std::optional<Stroke>> m_set;
    FingerModel m_model;
    PluckingSchool m_school;
    std::vector<std::vector<std::size_t>> m_order; // of each attack, its notes from thick to thin
    std::vector<bool> m_lowered;
    std::vector<Digit> m_tremolo; // the finger that has an attack as a part of one
    std::vector<std::vector<FingerState>> m_states;
};

} // namespace

std::vector<std::vector<FingerStroke>> fingerStrokes(const PluckedLine& line,
                                                     IndexSpan part,
                                                     PluckingSchool school,
                                                     std::span<const std::optional<Stroke>> set) {
    return FingerSearch(line, part, school, set).solve();
}

std::vector<std::vector<std::vector<Stroke>>> fingerWays(const PluckedLine& line,
                                                         IndexSpan part,
                                                         PluckingSchool school,
                                                         std::span<const std::optional<Stroke>> set,
                                                         std::size_t count) {
    return FingerSearch(line, part, school, set).cheapest(count);
}

} // namespace wirenote
