#include "fretting/fingers.h"

#include "base/best_path.h"
#include "hand/usual_grips.h"
#include "piece/one_stroke.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <cstdint>
#include <cstdlib>
#include <map>

namespace wirenote {
namespace {

constexpr double kOverlap_s = 0.05; // shorter, and a note does not ring on into the next
constexpr double kKeptFor_s = 2.0;  // a finger waits no longer for its place to come again
constexpr std::size_t kMostStates = 24;
constexpr std::size_t kNobody = static_cast<std::size_t>(-1);

bool takesFinger(const Row& row) {
    return row.plan.placed() && row.plan.position.value.fret > 0 && row.note.pitched() &&
           !row.note.has(Technique::Harmonic);
}

enum class Why { Begins, Rings, Kept };

struct Stop {
    std::size_t note = 0;
    Position position;
    Why why = Why::Begins;
};

// An attack with all that a hand may hold then.
struct Moment {
    double onset_s = 0.0;
    std::vector<Stop> stops;  // what begins first
    unsigned open = 0;        // strings that sound open, …
    unsigned open_begins = 0; // … those that are struck then
    bool open_before = false;
};

// One way to hold a moment's stops. An hour has many of them: fingers are kept small.
struct State {
    std::array<std::int8_t, kMaxStrings> fingers{}; // of each stop; None: it is not held
    std::int8_t hand_fret = 1;
    bool usual = false;
    double cost = 0.0;

    static constexpr std::int8_t kNone = 0;
    Finger fingerAt(std::size_t stop) const { return static_cast<Finger>(fingers[stop]); }
    bool holds(std::size_t stop) const { return fingers[stop] != kNone; }
};
static_assert(static_cast<int>(Finger::Unknown) == State::kNone);

struct Held {
    Stop stop;
    Finger finger = Finger::Unknown;
};

// What is held, stop by stop.
class HeldStops {
  public:
    HeldStops(const Moment& moment, const State& state) : m_moment(&moment), m_state(&state) {}
    class Iterator {
      public:
        Iterator(const HeldStops& of, std::size_t at) : m_of(&of), m_at(at) { skip(); }
        Held operator*() const {
            return {m_of->m_moment->stops[m_at], m_of->m_state->fingerAt(m_at)};
        }
        Iterator& operator++() {
            ++m_at;
            skip();
            return *this;
        }
        bool operator!=(const Iterator& other) const { return m_at != other.m_at; }

      private:
        void skip() {
            while (m_at < m_of->m_moment->stops.size() && !m_of->m_state->holds(m_at))
                ++m_at;
        }
        const HeldStops* m_of;
        std::size_t m_at;
    };
    Iterator begin() const { return {*this, 0}; }
    Iterator end() const { return {*this, m_moment->stops.size()}; }

  private:
    const Moment* m_moment;
    const State* m_state;
};

class Moments {
  public:
    Moments(const Instrument& instrument, const Rows& rows)
        : m_rows(rows),
          m_on_string(static_cast<std::size_t>(instrument.stringCount()) + 1, kNobody) {}

    std::vector<Moment> run() {
        findNext();
        std::vector<Moment> moments;
        bool open_before = false;
        for (const IndexSpan& stroke : strokeSpans(m_rows.notes()))
            for (const IndexSpan& span : onePerString(stroke)) {
                Moment moment = at(span);
                moment.open_before = open_before;
                open_before = moment.stops.empty() || moment.stops.front().why != Why::Begins;
                if (!moment.stops.empty())
                    moments.push_back(std::move(moment));
            }
        return moments;
    }

  private:
    // A grace note is within one stroke with the note it leads to, on the same string.
    std::vector<IndexSpan> onePerString(const IndexSpan& stroke) const {
        std::vector<IndexSpan> spans{{stroke.first, stroke.first}};
        unsigned taken = 0;
        for (std::size_t i = stroke.first; i < stroke.end; ++i) {
            const unsigned bit = 1U << static_cast<unsigned>(m_rows[i].plan.position.value.string);
            if (m_rows[i].plan.placed() && (taken & bit)) {
                spans.push_back({i, i});
                taken = 0;
            }
            taken |= bit;
            spans.back().end = i + 1;
        }
        return spans;
    }

    void findNext() {
        m_next.assign(m_rows.size(), kNobody);
        std::vector<std::size_t> last(m_on_string.size(), kNobody);
        for (std::size_t i = 0; i < m_rows.size(); ++i) {
            if (!m_rows[i].plan.placed())
                continue;
            auto& before = last[static_cast<std::size_t>(m_rows[i].plan.position.value.string)];
            if (before != kNobody)
                m_next[before] = i;
            before = i;
        }
    }

    Moment at(const IndexSpan& span) {
        Moment moment;
        moment.onset_s = m_rows[span.first].note.onset_s();
        std::vector<bool> fresh(m_on_string.size(), false);
        for (std::size_t i = span.first; i < span.end; ++i) {
            const Row row = m_rows[i];
            if (!row.plan.placed())
                continue;
            const auto string = static_cast<std::size_t>(row.plan.position.value.string);
            if (takesFinger(row) && !fresh[string])
                moment.stops.push_back({i, row.plan.position.value, Why::Begins});
            else if (row.plan.position.value.fret == 0 && row.note.pitched())
                moment.open_begins |= 1U << static_cast<unsigned>(string);
            fresh[string] = true;
            m_on_string[string] = i;
        }
        moment.open = moment.open_begins;
        for (std::size_t string = 1; string < m_on_string.size(); ++string)
            if (!fresh[string] && m_on_string[string] != kNobody)
                carry(m_on_string[string], moment);
        std::ranges::stable_sort(moment.stops, {}, &Stop::why);
        return moment;
    }

    // What sounded before on a string that nothing begins on.
    void carry(std::size_t before, Moment& moment) const {
        const Row row = m_rows[before];
        const bool rings = row.note.offset_s() > moment.onset_s + kOverlap_s;
        if (!takesFinger(row)) {
            if (rings && row.plan.position.value.fret == 0)
                moment.open |= 1U << static_cast<unsigned>(row.plan.position.value.string);
            return;
        }
        const std::size_t next = m_next[before];
        const bool again = next != kNobody && takesFinger(m_rows[next]) &&
                           m_rows[next].plan.position.value == row.plan.position.value &&
                           m_rows[next].note.onset_s() - moment.onset_s < kKeptFor_s;
        if (rings || again)
            moment.stops.push_back(
                {before, row.plan.position.value, rings ? Why::Rings : Why::Kept});
    }

    const Rows& m_rows;
    std::vector<std::size_t> m_next;      // note on the same string
    std::vector<std::size_t> m_on_string; // the last note there
};

class FingerSearch {
  public:
    FingerSearch(const Instrument& instrument, const Rows& rows, const FingerModel& model)
        : m_instrument(instrument), m_rows(rows), m_model(model) {}

    std::vector<FingerChoice> run() {
        std::vector<FingerChoice> choices(m_rows.size());
        for (std::size_t i = 0; i < m_rows.size(); ++i)
            if (m_rows[i].plan.placed() && m_rows[i].plan.position.value.fret == 0) {
                choices[i].finger = Finger::Open;
                choices[i].probability = 1.0;
            }
        for (Moment& moment : Moments(m_instrument, m_rows).run()) {
            auto states = statesOf(moment);
            if (states.empty()) { // no hand can hold what begins: nobody's finger
                for (const Stop& stop : moment.stops)
                    if (stop.why == Why::Begins)
                        choices[stop.note].reasons = {
                            {ReasonKind::OutOfHand, Basis::Reasoned, 0, 0, 0.0}};
                continue;
            }
            m_moments.push_back(std::move(moment));
            m_states.push_back(std::move(states));
        }
        const auto found = pathMarginals(
            m_moments.size(),
            [this](std::size_t c) {
                std::vector<double> costs;
                for (const State& state : m_states[c])
                    costs.push_back(state.cost);
                return costs;
            },
            [this](std::size_t c, StepCosts& costs) {
                costs.fill(m_states[c - 1].size(),
                           m_states[c].size(),
                           [&](std::size_t i, std::size_t j) { return stepCost(c, i, j); });
            });
        for (std::size_t c = 0; c < m_moments.size(); ++c)
            write(c, found.states, found.through[c], choices);
        standWhereTheHandIs(choices);
        return choices;
    }

  private:
    std::vector<State> statesOf(const Moment& moment) {
        std::vector<State> states;
        addSubsets(moment, 0.0, states);
        std::ranges::stable_sort(states, {}, &State::cost);
        if (moment.open != moment.open_begins &&
            (states.empty() || states.front().cost > m_model.cut_off)) {
            Moment without = moment; // a barre cuts off what rings under it
            without.open = moment.open_begins;
            addSubsets(without, m_model.cut_off, states);
            std::ranges::stable_sort(states, {}, &State::cost);
        }
        if (states.size() > kMostStates)
            states.resize(kMostStates);
        return states;
    }

    // With all that may be held, with one left out, without what only waits, and with nothing more
    // than what begins.
    void addSubsets(const Moment& moment, double cost, std::vector<State>& states) {
        const std::size_t count = moment.stops.size();
        const auto fresh =
            static_cast<std::size_t>(std::ranges::count(moment.stops, Why::Begins, &Stop::why));
        std::vector<bool> keep(count, true);
        addStates(moment, keep, cost, states);
        for (std::size_t left = fresh; left < count; ++left) {
            keep[left] = false;
            addStates(moment, keep, cost, states);
            keep[left] = true;
        }
        if (count <= fresh + 1)
            return;
        for (std::size_t k = fresh; k < count; ++k)
            keep[k] = moment.stops[k].why != Why::Kept;
        addStates(moment, keep, cost, states);
        std::fill(keep.begin() + static_cast<std::ptrdiff_t>(fresh), keep.end(), false);
        addStates(moment, keep, cost, states);
    }

    // The ways to hold those stops that are kept; what rings and is left is cut off.
    void addStates(const Moment& moment,
                   const std::vector<bool>& keep,
                   double cut,
                   std::vector<State>& states) {
        std::vector<std::size_t> stops;
        std::vector<Position> places;
        std::size_t sounding = 0;
        for (std::size_t k = 0; k < moment.stops.size(); ++k) {
            if (keep[k]) {
                stops.push_back(k);
                places.push_back(moment.stops[k].position);
                sounding += moment.stops[k].why != Why::Kept ? 1 : 0;
            } else {
                cut += moment.stops[k].why == Why::Rings ? m_model.cut_off : m_model.let_go;
            }
        }
        if (stops.empty())
            return;
        const auto usual = usualFingers(m_instrument, places, moment.open);
        const bool a_grip = sounding + static_cast<std::size_t>(std::popcount(moment.open)) > 1;
        for (const HandShape& shape : shapesOf(places, sounding, moment.open)) {
            State state;
            state.hand_fret = static_cast<std::int8_t>(shape.hand_fret);
            state.cost = cut + shape.cost + outOfOpenPosition(moment, shape.hand_fret);
            for (std::size_t k = 0; k < stops.size(); ++k)
                state.fingers[stops[k]] = static_cast<std::int8_t>(shape.fingers[k]);
            const HeldStops held_stops(moment, state);
            if (!asSet(held_stops))
                continue;
            state.usual = a_grip && std::ranges::find(usual, shape.fingers) != usual.end();
            if (state.usual)
                state.cost -= m_model.usual_grip;
            for (const Held& held : held_stops)
                if (held.stop.why == Why::Begins)
                    state.cost += drawnCost(held);
            states.push_back(state);
        }
    }

    // The same grips come again and again: each is counted out once.
    const std::vector<HandShape>&
    shapesOf(const std::vector<Position>& places, std::size_t sounding, unsigned open) {
        std::vector<int> key{static_cast<int>(sounding), static_cast<int>(open)};
        for (const Position& place : places) {
            key.push_back(place.string);
            key.push_back(place.fret);
        }
        const auto [at, fresh] = m_shapes.try_emplace(std::move(key));
        if (fresh)
            at->second = handShapes(m_instrument, places, sounding, open);
        return at->second;
    }

    // In a line among open strings, low on the neck, a finger has the number of its fret (common
    // practice).
    double outOfOpenPosition(const Moment& moment, int hand_fret) const {
        constexpr int kHighest = 4;
        const bool low = moment.stops.size() == 1 && moment.stops.front().position.fret <= kHighest;
        return low && hand_fret > 1 && moment.open == 0 && moment.open_before
                   ? m_model.open_position
                   : 0.0;
    }

    bool asSet(const HeldStops& held_stops) const {
        for (const Held& held : held_stops) {
            const auto& finger = m_rows[held.stop.note].plan.finger;
            if (finger.isSet() && finger.value != held.finger && finger.value != Finger::Thumb &&
                finger.value != Finger::Unknown)
                return false;
        }
        return true;
    }

    double drawnCost(const Held& held) const {
        const double semitones = m_rows[held.stop.note].note.bendSemitones();
        if (semitones <= 0.0 || held.finger == Finger::Ring)
            return 0.0;
        return semitones *
               (held.finger == Finger::Index ? m_model.bend_by_index : m_model.bend_by_other);
    }

    double stepCost(std::size_t c, std::size_t i, std::size_t j) const {
        const State& from = m_states[c - 1][i];
        const State& to = m_states[c][j];
        const double time_s = std::max(0.02, m_moments[c].onset_s - m_moments[c - 1].onset_s);
        const double hurry = (1.0 + m_model.hurry_s / time_s) *
                             (m_moments[c].open_before ? m_model.open_eases : 1.0);
        double cost = 0.0;
        bool slides = false;
        const HeldStops held_before(m_moments[c - 1], from);
        const HeldStops held_now(m_moments[c], to);
        const bool hand_stays = from.hand_fret == to.hand_fret;
        for (const Held& held : held_now) {
            cost += movedCost(held_before, held_now, held, hand_stays, hurry);
            slides = slides || (held.stop.why == Why::Begins &&
                                m_rows[held.stop.note].note.has(Technique::Slide));
        }
        const int frets = std::abs(to.hand_fret - from.hand_fret);
        if (frets > 0 && !slides)
            cost += (m_model.shift + m_model.per_fret * frets) * hurry;
        return cost;
    }

    // One finger on its way: where it was, and who was where it goes.
    double movedCost(const HeldStops& from,
                     const HeldStops& to,
                     const Held& held,
                     bool hand_stays,
                     double hurry) const {
        double cost = 0.0;
        for (const Held& before : from) {
            const bool same_place = before.stop.position == held.stop.position;
            if (same_place) {
                if (before.finger != held.finger)
                    cost += m_model.refingered;
                continue;
            }
            if (held.stop.why != Why::Begins)
                continue;
            const bool same_string = before.stop.position.string == held.stop.position.string;
            if (same_string)
                cost += slurCost(before, held);
            if (before.finger == held.finger && !stays(before, to))
                cost += hopCost(before, held, hand_stays) * hurry;
        }
        return cost;
    }

    static bool stays(const Held& before, const HeldStops& to) {
        for (const Held& held : to)
            if (held.stop.position == before.stop.position && held.finger == before.finger)
                return true;
        return false;
    }

    double hopCost(const Held& before, const Held& held, bool hand_stays) const {
        const int strings = std::abs(before.stop.position.string - held.stop.position.string);
        if (strings == 1 && before.stop.position.fret == held.stop.position.fret)
            return m_model.roll;
        return hand_stays ? m_model.hop : 0.0;
    }

    double slurCost(const Held& before, const Held& held) const {
        const Note& note = m_rows[held.stop.note].note;
        if (note.has(Technique::Slide))
            return before.finger != held.finger ? 2.0 * m_model.slur_wrong_finger : 0.0;
        if (note.has(Technique::HammerOn))
            return held.finger <= before.finger ? m_model.slur_wrong_finger : 0.0;
        if (note.has(Technique::PullOff))
            return held.finger >= before.finger ? m_model.slur_wrong_finger : 0.0;
        return 0.0;
    }

    void write(std::size_t c,
               const std::vector<std::size_t>& chosen,
               const std::vector<double>& through,
               std::vector<FingerChoice>& choices) const {
        const State& state = m_states[c][chosen[c]];
        for (std::size_t stop = 0; stop < m_moments[c].stops.size(); ++stop) {
            const Held held{m_moments[c].stops[stop], state.fingerAt(stop)};
            if (held.stop.why != Why::Begins)
                continue;
            FingerChoice& choice = choices[held.stop.note];
            choice.finger = held.finger;
            choice.hand_fret = state.hand_fret;
            choice.reasons = {reasonFor(c, chosen, held)};
            for (std::size_t k = 0; k < through.size(); ++k)
                keepBest(choice.others,
                         m_states[c][k].fingerAt(stop),
                         std::exp((through[chosen[c]] - through[k]) / m_model.temperature));
            settle(choice);
        }
    }

    // What the costs say, brought down to how often it is right; the others share the rest.
    void settle(FingerChoice& choice) const {
        double sum = 0.0;
        for (const auto& one : choice.others)
            sum += one.probability;
        const auto chosen =
            std::ranges::find(choice.others, choice.finger, &RunnerUp<Finger>::value);
        const double said = std::clamp(chosen->probability / sum, 0.02, 0.998);
        const double odds = m_model.log_odds + m_model.per_log_odds * std::log(said / (1.0 - said));
        choice.probability = 1.0 / (1.0 + std::exp(-odds));
        const double rest = sum - chosen->probability;
        choice.others.erase(chosen);
        for (auto& one : choice.others)
            one.probability *= (1.0 - choice.probability) / std::max(1e-12, rest);
        std::ranges::stable_sort(
            choice.others, std::ranges::greater{}, &RunnerUp<Finger>::probability);
    }

    Reason
    reasonFor(std::size_t c, const std::vector<std::size_t>& chosen, const Held& held) const {
        const auto number = [](Finger finger) {
            return static_cast<int>(finger) - static_cast<int>(Finger::Index) + 1;
        };
        const Position place = held.stop.position;
        const State& state = m_states[c][chosen[c]];
        if (c > 0)
            for (const Held& was : HeldStops(m_moments[c - 1], m_states[c - 1][chosen[c - 1]]))
                if (was.stop.position == place && was.finger == held.finger)
                    return {
                        ReasonKind::FingerStays, Basis::Reasoned, place.string, place.fret, 0.0};
        const HeldStops held_stops(m_moments[c], state);
        if (state.usual)
            return {ReasonKind::UsualGrip,
                    Basis::Reasoned,
                    static_cast<int>(std::ranges::count_if(
                        state.fingers, [](std::int8_t finger) { return finger != State::kNone; })),
                    state.hand_fret,
                    0.0};
        const int in_place = place.fret - state.hand_fret + 1;
        for (const Held& other : held_stops) {
            if (other.stop.position == place)
                continue;
            if (other.finger == held.finger)
                return {ReasonKind::OneFinger,
                        Basis::Reasoned,
                        other.stop.position.string,
                        place.fret,
                        0.0};
            if (number(held.finger) != in_place && number(other.finger) == in_place)
                return {ReasonKind::FingerElsewhere,
                        Basis::Reasoned,
                        other.stop.position.string,
                        other.stop.position.fret,
                        static_cast<double>(in_place)};
        }
        return {
            ReasonKind::FingerPerFret, Basis::Reasoned, number(held.finger), state.hand_fret, 0.0};
    }

    static void keepBest(std::vector<RunnerUp<Finger>>& all, Finger finger, double weight) {
        const auto found = std::ranges::find(all, finger, &RunnerUp<Finger>::value);
        if (found == all.end())
            all.push_back({finger, weight});
        else
            found->probability = std::max(found->probability, weight);
    }

    // An open string is played wherever the hand stands.
    static void standWhereTheHandIs(std::vector<FingerChoice>& choices) {
        int hand = 0;
        for (FingerChoice& choice : choices) {
            if (choice.hand_fret > 0)
                hand = choice.hand_fret;
            else if (choice.finger == Finger::Open)
                choice.hand_fret = hand;
        }
        hand = 0;
        for (std::size_t i = choices.size(); i-- > 0;) {
            if (choices[i].hand_fret > 0)
                hand = choices[i].hand_fret;
            else if (choices[i].finger == Finger::Open)
                choices[i].hand_fret = hand > 0 ? hand : 1;
        }
    }

    const Instrument& m_instrument;
    const Rows& m_rows;
    const FingerModel& m_model;
    std::vector<Moment> m_moments;
    std::vector<std::vector<State>> m_states;
    std::map<std::vector<int>, std::vector<HandShape>> m_shapes;
};

} // namespace

std::vector<FingerChoice>
chooseFingers(const Instrument& instrument, const Rows& rows, const FingerModel& model) {
    return FingerSearch(instrument, rows, model).run();
}

} // namespace wirenote
