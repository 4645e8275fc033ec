#include "fretting/solver.h"

#include "base/best_path.h"
#include "hand/candidates.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace wirenote {
namespace {

constexpr double kNever = std::numeric_limits<double>::infinity();
constexpr int kHighestHandFret = 17;

Finger fingerAt(int reach) {
    switch (std::clamp(reach, 0, 3)) {
    case 0:
        return Finger::Index;
    case 1:
        return Finger::Middle;
    case 2:
        return Finger::Ring;
    default:
        return Finger::Little;
    }
}

// The ways to take a note at one place.
void addStates(const Instrument& instrument,
               const LineNote& note,
               const Position& place,
               std::vector<HandState>& states) {
    if (place.fret == 0) {
        const int highest = std::min(kHighestHandFret, std::max(1, instrument.highestFret() - 3));
        for (int hand = 1; hand <= highest; ++hand)
            states.push_back({place, hand, Finger::Open});
        return;
    }
    for (int reach = -1; reach <= 4; ++reach)
        if (const int hand = place.fret - reach; hand >= 1) {
            states.push_back({place, hand, fingerAt(reach)});
            if (reach == 3 && note.drawn_semitones > 0.0) // the strongest finger draws
                states.push_back({place, hand, Finger::Ring});
        }
}

std::vector<HandState> statesFor(const Instrument& instrument, const LineNote& note) {
    std::vector<HandState> states;
    const auto places = note.fixed_position ? std::vector<Position>{*note.fixed_position}
                                            : candidatesFor(instrument, note.midi, note.harmonic);
    for (const Position& place : places)
        addStates(instrument, note, place, states);
    const auto keepOnly = [&states](auto wanted) {
        std::vector<HandState> kept;
        std::copy_if(states.begin(), states.end(), std::back_inserter(kept), wanted);
        if (!kept.empty())
            states = std::move(kept);
    };
    if (note.fixed_hand_fret)
        keepOnly([&](const HandState& s) { return s.hand_fret == *note.fixed_hand_fret; });
    if (note.fixed_finger) {
        keepOnly([&](const HandState& s) { return s.finger == *note.fixed_finger; });
        // A finger no rule would choose (the thumb, say): a person's word goes before the rules.
        for (HandState& s : states)
            s.finger = s.open() ? Finger::Open : *note.fixed_finger;
    }
    return states;
}

struct Column {
    std::size_t note = 0;
    std::vector<HandState> states;
    std::vector<double> unary;
};

class Lattice {
  public:
    Lattice(const Instrument& instrument, std::span<const LineNote> line, const HandModel& model)
        : m_instrument(instrument), m_model(model), m_line(line) {
        for (std::size_t i = 0; i < line.size(); ++i) {
            Column column;
            column.note = i;
            column.states = statesFor(instrument, line[i]);
            if (column.states.empty())
                continue;
            for (const HandState& s : column.states)
                column.unary.push_back(unaryCost(model, instrument, line[i], s));
            m_columns.push_back(std::move(column));
        }
    }

    std::vector<LinePlacement> solve() const {
        const auto found = pathMarginals(
            m_columns.size(),
            [this](std::size_t c) { return m_columns[c].unary; },
            [this](std::size_t c, StepCosts& costs) {
                stepsBetween(m_columns[c - 1], m_columns[c], costs);
            });
        std::vector<LinePlacement> placements(m_line.size());
        for (std::size_t c = 0; c < m_columns.size(); ++c)
            placements[m_columns[c].note] =
                placementAt(m_columns[c], found.states[c], found.through[c]);
        return placements;
    }

  private:
    // A step that cannot be played everywhere would make the line unsolvable (a slur heard by
    // mistake): then all its steps are taken as free of the rule, at a flat price.
    void stepsBetween(const Column& from, const Column& to, StepCosts& costs) const {
        constexpr double kBrokenRule = 6.0;
        bool any = false;
        costs.fill(from.states.size(), to.states.size(), [&](std::size_t i, std::size_t j) {
            const double cost = stepCost(m_model,
                                         m_instrument,
                                         m_line[from.note],
                                         from.states[i],
                                         m_line[to.note],
                                         to.states[j]);
            any = any || cost < kNever;
            return cost;
        });
        if (!any)
            costs.fill(
                from.states.size(), to.states.size(), [&](auto, auto) { return kBrokenRule; });
    }

    LinePlacement placementAt(const Column& column,
                              std::size_t chosen,
                              const std::vector<double>& through) const {
        LinePlacement placement;
        placement.possible = true;
        placement.state = column.states[chosen];
        for (std::size_t i = 0; i < column.states.size(); ++i) {
            const double weight = std::exp((through[chosen] - through[i]) / m_model.temperature);
            keepBest(
                placement.places, column.states[i].position, weight, &PlaceProbability::position);
        }
        toProbabilities(placement.places);
        return placement;
    }

    template <class Item, class Value>
    static void
    keepBest(std::vector<Item>& items, const Value& value, double weight, Value Item::*member) {
        for (Item& item : items)
            if (item.*member == value) {
                item.probability = std::max(item.probability, weight);
                return;
            }
        Item item;
        item.*member = value;
        item.probability = weight;
        items.push_back(item);
    }

    template <class Item> static void toProbabilities(std::vector<Item>& items) {
        double sum = 0.0;
        for (const Item& item : items)
            sum += item.probability;
        for (Item& item : items)
            item.probability /= std::max(1e-12, sum);
        std::stable_sort(items.begin(), items.end(), [](const Item& a, const Item& b) {
            return a.probability > b.probability;
        });
    }

    const Instrument& m_instrument;
    HandModel m_model;
    std::span<const LineNote> m_line;
    std::vector<Column> m_columns;
};

} // namespace

std::vector<LinePlacement>
solveLine(const Instrument& instrument, std::span<const LineNote> line, const HandModel& model) {
    return Lattice(instrument, line, model).solve();
}

} // namespace wirenote
