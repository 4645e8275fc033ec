#include "fretting/solver.h"

#include "base/lazy_path.h"
#include "fretting/finger_reasons.h"
#include "fretting/hand_moves.h"
#include "fretting/ways_to_hold.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kFarBehind = 8.0; // ways that are e^8 times less likely so far are given up

class LineSearch {
  public:
    LineSearch(const Instrument& instrument,
               std::span<const LineNote> notes,
               const HandModel& model)
        : m_line(instrument, notes, model), m_moments(momentsOf(m_line)), m_ways(m_line),
          m_states(m_moments.size()) {}

    LineSolution solve() {
        const auto found = LazyPath(*this, kFarBehind).marginals();
        LineSolution out;
        out.notes.resize(m_line.size());
        std::vector<const HandState*> chosen;
        for (std::size_t c = 0; c < m_moments.size(); ++c)
            chosen.push_back(&m_states[c][found.states[c]]);
        for (std::size_t c = 0; c < m_moments.size(); ++c)
            for (const std::size_t i : m_moments[c].notes) {
                LinePlacement& placement = out.notes[i];
                write(c, found.states[c], found.through[c], i, placement);
                placement.finger_reasons =
                    fingerReasons(m_line, c > 0 ? chosen[c - 1] : nullptr, *chosen[c], i);
            }
        if (!m_moments.empty())
            out.cost = found.through.back()[found.states.back()];
        out.complete = m_ways.complete();
        return out;
    }

    // What LazyPath asks for.
    std::size_t count() const { return m_moments.size(); }
    std::vector<double> make(std::size_t c, const std::vector<double>& cheapest) {
        static const std::vector<HandState> kNothing;
        m_states[c] = m_ways.of(m_moments[c], c > 0 ? m_states[c - 1] : kNothing, cheapest);
        std::vector<double> costs;
        for (const HandState& state : m_states[c])
            costs.push_back(state.cost);
        return costs;
    }
    void keep(std::size_t c, const std::vector<std::size_t>& kept) {
        for (std::size_t k = 0; k < kept.size(); ++k)
            m_states[c][k] = m_states[c][kept[k]];
        m_states[c].resize(kept.size());
    }
    HandMoves steps(std::size_t c) const {
        return {m_line, m_moments[c - 1], m_states[c - 1], m_moments[c], m_states[c]};
    }

    std::vector<WholeWay> cheapest(std::size_t count) {
        constexpr std::size_t kSameButForTheHand = 4; // ways that differ in no place and no finger
        std::vector<WholeWay> ways;
        for (const RankedPath& path :
             LazyPath(*this, kFarBehind).cheapest(count * kSameButForTheHand)) {
            WholeWay way = wholeWay(path);
            const bool known = std::ranges::any_of(ways, [&way](const WholeWay& other) {
                return other.positions == way.positions && other.fingers == way.fingers;
            });
            if (!known)
                ways.push_back(std::move(way));
            if (ways.size() == count)
                break;
        }
        return ways;
    }

  private:
    // Where a state has a note; string 0: nowhere.
    Position placeIn(const HandState& state, std::size_t note) const {
        for (int string = 1; string <= m_line.instrument().stringCount(); ++string)
            if (state.on(string).note == note)
                return {string, state.on(string).fret};
        return {0, 0};
    }

    void write(std::size_t c,
               std::size_t chosen,
               const std::vector<double>& through,
               std::size_t note,
               LinePlacement& placement) const {
        const HandModel& m = m_line.model();
        const HandState& state = m_states[c][chosen];
        const Position place = placeIn(state, note);
        placement.out_of_hand = place.string == 0;
        placement.possible = !placement.out_of_hand;
        placement.hand_fret = state.hand_fret;
        if (!placement.possible)
            return;
        placement.position = place;
        placement.finger = state.on(place.string).finger;
        for (std::size_t s = 0; s < through.size(); ++s) {
            // What was set may leave no way at all: then nothing speaks for one place more than for
            // another, and the note is in doubt.
            const double dearer =
                std::isfinite(through[chosen]) ? through[s] - through[chosen] : 0.0;
            const Position there = placeIn(m_states[c][s], note);
            if (there.string > 0)
                keepBest(placement.places,
                         there,
                         std::exp(-dearer / m.place_temperature),
                         &PlaceProbability::position);
            if (there == place)
                keepBest(placement.other_fingers,
                         m_states[c][s].on(place.string).finger,
                         std::exp(-dearer / m.finger_temperature),
                         &RunnerUp<Finger>::value);
        }
        addUnthought(m_line.candidates(note), placement.places);
        toProbabilities(placement.places);
        if (m_line.takesFinger(note, place.fret) && placement.finger != Finger::Unknown)
            settleFinger(placement);
        else
            placement.other_fingers.clear();
        if (placement.finger == Finger::Open)
            placement.finger_probability = 1.0;
    }

    // Places that the search did not come to, and would not have chosen: very unlikely ones.
    static void addUnthought(const std::vector<Position>& candidates,
                             std::vector<PlaceProbability>& places) {
        constexpr double kUnthought = 1e-6;
        for (const Position& place : candidates)
            keepBest(places, place, kUnthought, &PlaceProbability::position);
    }

    template <class Item, class Value>
    static void
    keepBest(std::vector<Item>& items, const Value& value, double weight, Value Item::*member) {
        const auto at = std::ranges::find(items, value, member);
        if (at != items.end()) {
            at->probability = std::max(at->probability, weight);
            return;
        }
        Item item;
        item.*member = value;
        item.probability = weight;
        items.push_back(item);
    }

    static void toProbabilities(std::vector<PlaceProbability>& places) {
        double sum = 0.0;
        for (const PlaceProbability& place : places)
            sum += place.probability;
        for (PlaceProbability& place : places)
            place.probability /= std::max(1e-12, sum);
        std::ranges::stable_sort(places, std::ranges::greater{}, &PlaceProbability::probability);
    }

    // What the costs say, brought down to how often it is right; the others share the rest.
    void settleFinger(LinePlacement& placement) const {
        const HandModel& m = m_line.model();
        auto& others = placement.other_fingers;
        double sum = 0.0;
        for (const auto& one : others)
            sum += one.probability;
        const auto chosen = std::ranges::find(others, placement.finger, &RunnerUp<Finger>::value);
        const double said = std::clamp(chosen->probability / sum, 0.02, 0.998);
        const double odds =
            m.finger_log_odds + m.finger_per_log_odds * std::log(said / (1.0 - said));
        placement.finger_probability = 1.0 / (1.0 + std::exp(-odds));
        const double rest = sum - chosen->probability;
        others.erase(chosen);
        for (auto& one : others)
            one.probability *= (1.0 - placement.finger_probability) / std::max(1e-12, rest);
        std::ranges::stable_sort(others, std::ranges::greater{}, &RunnerUp<Finger>::probability);
    }

    WholeWay wholeWay(const RankedPath& path) const {
        WholeWay way{path.cost,
                     std::vector<Position>(m_line.size(), Position{0, 0}),
                     std::vector<Finger>(m_line.size(), Finger::Unknown)};
        for (std::size_t c = 0; c < m_moments.size(); ++c) {
            const HandState& state = m_states[c][path.states[c]];
            for (const std::size_t i : m_moments[c].notes) {
                way.positions[i] = placeIn(state, i);
                if (way.positions[i].string > 0)
                    way.fingers[i] = state.on(way.positions[i].string).finger;
            }
        }
        return way;
    }

    HandLine m_line;
    std::vector<Moment> m_moments;
    WaysToHold m_ways;
    std::vector<std::vector<HandState>> m_states;
};

} // namespace

LineSolution
solveLine(const Instrument& instrument, std::span<const LineNote> line, const HandModel& model) {
    return LineSearch(instrument, line, model).solve();
}

std::vector<WholeWay> cheapestWays(const Instrument& instrument,
                                   std::span<const LineNote> line,
                                   std::size_t count,
                                   const HandModel& model) {
    return LineSearch(instrument, line, model).cheapest(count);
}

} // namespace wirenote
