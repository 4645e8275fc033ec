#include "fretting/ways_to_hold.h"

#include <algorithm>
#include <cstdlib>
#include <limits>
#include <optional>

namespace wirenote {
namespace {

constexpr std::size_t kMostStates = 64;
constexpr std::size_t kMostContexts = 6;
constexpr std::size_t kMostShapes = 16;
// Dearer than the cheapest by this much before the way there is priced, and no way leads on from
// it.
constexpr double kHopeless = 9.0;

} // namespace

// What a hand may bring along: from one or several states of the moment before.
struct WaysToHold::Context {
    std::vector<Carried> carried;
    int hand_fret = 1;
    double cost = 0.0; // the cheapest way there
};

struct WaysToHold::Found {
    HandState state;
    double at_least = 0.0; // what a way through it costs so far, but for the move
};

WaysToHold::WaysToHold(const HandLine& line)
    : m_line(line), m_shapes(line.instrument(), line.model()) {}

namespace {

template <class Context, class Same>
void keepCheapest(std::vector<Context>& all, Context context, const Same& same) {
    const auto at = std::ranges::find_if(all, [&](const Context& c) { return same(c, context); });
    if (at == all.end())
        all.push_back(std::move(context));
    else
        at->cost = std::min(at->cost, context.cost);
}

template <class Context> bool shorten(std::vector<Context>& all, std::size_t most) {
    std::ranges::stable_sort(all, {}, &Context::cost);
    if (all.size() <= most)
        return false;
    all.resize(most);
    return true;
}

} // namespace

// Fingers may change on what is held, so they do not tell contexts apart.
std::vector<WaysToHold::Context> WaysToHold::contextsOf(const Moment& moment,
                                                        const std::vector<HandState>& before,
                                                        const std::vector<double>& cheapest) const {
    std::vector<Context> contexts;
    for (std::size_t i = 0; i < before.size(); ++i) {
        Context context{carriedFrom(m_line, before[i], moment), 1, cheapest[i]};
        for (Carried& carried : context.carried)
            if (carried.held.stopped())
                carried.held.finger = Finger::Unknown;
        keepCheapest(contexts, std::move(context), [](const Context& a, const Context& b) {
            return a.carried == b.carried;
        });
    }
    if (contexts.empty())
        contexts.emplace_back();
    return contexts;
}

std::vector<HandState> WaysToHold::of(const Moment& moment,
                                      const std::vector<HandState>& before,
                                      const std::vector<double>& cheapest) {
    auto contexts = contextsOf(moment, before, cheapest);
    m_complete &= !shorten(contexts, kMostContexts);
    std::vector<Context> hands;
    for (std::size_t i = 0; i < before.size(); ++i)
        keepCheapest(hands,
                     Context{{}, before[i].hand_fret, cheapest[i]},
                     [](const Context& a, const Context& b) { return a.hand_fret == b.hand_fret; });
    if (hands.empty())
        for (int hand = 1; hand <= std::max(1, m_line.instrument().highestFret() - 3); ++hand)
            hands.push_back({{}, hand, 0.0});
    const auto layings = layingsOf(m_line, moment, m_shapes);
    std::vector<Found> found;
    m_best = std::numeric_limits<double>::infinity();
    const auto addAll = [&] {
        for (const Context& context : contexts)
            for (const Laying& laying : layings)
                addLaying(moment, laying, context, hands, found);
    };
    addAll();
    if (found.empty()) { // a person's fingers that no hand would use: places alone count
        m_heed_set = false;
        addAll();
        m_heed_set = true;
    }
    if (found.empty())
        addNothing(hands, found);
    return cheapestOf(found);
}

// With all that may be held on, with one of it left out, without what only waits, and with nothing
// more than what begins.
void WaysToHold::addLaying(const Moment& moment,
                           const Laying& laying,
                           const Context& context,
                           const std::vector<Context>& hands,
                           std::vector<Found>& found) {
    const HandModel& m = m_line.model();
    unsigned busy = 0;
    for (const auto& place : laying.places)
        if (place)
            busy |= 1U << static_cast<unsigned>(place->string);
    std::vector<Carried> on;
    double cost = context.cost;
    for (const Carried& carried : context.carried) {
        if (!((busy >> static_cast<unsigned>(carried.string)) & 1U))
            on.push_back(carried);
        else if (carried.held.why == Why::Rings)
            cost += m.rings_on_same_string;
    }
    const auto dropped = [&m](const Carried& c) { return droppingCost(m, c.held.why); };
    addKept(moment, laying, cost, on, hands, found);
    double all = cost;
    double waiting = cost;
    std::vector<Carried> ringing;
    for (std::size_t left = 0; left < on.size(); ++left) {
        auto kept = on;
        kept.erase(kept.begin() + static_cast<std::ptrdiff_t>(left));
        addKept(moment, laying, cost + dropped(on[left]), kept, hands, found);
        all += dropped(on[left]);
        if (on[left].held.why != Why::Rings)
            waiting += dropped(on[left]);
        else
            ringing.push_back(on[left]);
    }
    if (on.size() < 2)
        return;
    if (!ringing.empty() && on.size() - ringing.size() > 1)
        addKept(moment, laying, waiting, ringing, hands, found);
    addKept(moment, laying, all, {}, hands, found);
}

HandState WaysToHold::stateOf(const Moment& moment,
                              const Laying& laying,
                              const std::vector<Carried>& kept) const {
    HandState state;
    for (std::size_t k = 0; k < moment.notes.size(); ++k) {
        const auto& place = laying.places[k];
        if (!place)
            continue;
        OnString& on = state.on(place->string);
        on.note = static_cast<std::uint32_t>(moment.notes[k]);
        on.fret = static_cast<std::int8_t>(place->fret);
        on.why = (laying.unheld >> static_cast<unsigned>(place->string)) & 1U ? Why::Unheld
                                                                              : Why::Begins;
        on.finger = place->fret == 0 ? Finger::Open : Finger::Unknown;
    }
    for (const Carried& carried : kept)
        state.on(carried.string) = carried.held;
    return state;
}

bool WaysToHold::asSet(const HandState& state) const {
    if (!m_heed_set)
        return true;
    for (const OnString& on : state.strings) {
        if (!on.stopped())
            continue;
        const auto& set = m_line.note(on.note).fixed_finger;
        if (set && *set != on.finger && *set != Finger::Thumb && *set != Finger::Unknown)
            return false;
    }
    return true;
}

// Of an open string under a hand that is up the neck; a pedal on the thickest one is nothing
// unusual.
double WaysToHold::openCost(const LineNote& note, int string, int hand_fret) const {
    constexpr int kLowPosition = 2;
    constexpr int kHighPosition = 5;
    const HandModel& m = m_line.model();
    const bool high = hand_fret > kHighPosition;
    const bool pedal = string == m_line.instrument().stringCount();
    if (note.travels && !pedal)
        return m.open_in_travelling_fifth;
    if (!note.alone)
        return high ? m.open_in_high_position : 0.0;
    const int above = std::clamp(hand_fret - kLowPosition, 0, kHighPosition - kLowPosition);
    return m.open_habit + (high ? m.open_in_high_position : pedal ? 0.0 : m.open_alone * above);
}

double
WaysToHold::ownCost(const Moment& moment, const Laying& laying, const HandState& state) const {
    const HandModel& m = m_line.model();
    double cost = laying.placed + m.at_fret * std::abs(state.hand_fret - m.home_fret);
    for (std::size_t k = 0; k < moment.notes.size(); ++k) {
        if (!laying.places[k])
            continue;
        const LineNote& note = m_line.note(moment.notes[k]);
        const OnString& on = state.on(laying.places[k]->string);
        if (on.fret == 0) {
            cost += m.open + openCost(note, laying.places[k]->string, state.hand_fret);
            continue;
        }
        cost += note.againstFinger(laying.places[k]->string, on.finger);
        if (note.drawn_semitones > 0.0 && on.finger != Finger::Ring) {
            cost += note.drawn_semitones *
                    (on.finger == Finger::Index ? m.bend_by_index : m.bend_by_other);
        } else if (note.dead) {
            cost += m.dead_out_of_reach *
                    std::max({0, state.hand_fret - on.fret, on.fret - state.hand_fret - 4});
        }
    }
    return cost;
}

// The states that hold what begins and these others; a string that is stopped has Unknown until it
// gets its finger.
void WaysToHold::addKept(const Moment& moment,
                         const Laying& laying,
                         double so_far,
                         const std::vector<Carried>& kept,
                         const std::vector<Context>& hands,
                         std::vector<Found>& found) {
    if (so_far + laying.placed > m_best + kHopeless)
        return;
    HandState state = stateOf(moment, laying, kept);
    std::vector<Position> stops;
    std::vector<Position> waiting;
    unsigned open = 0;
    for (int string = 1; string <= m_line.instrument().stringCount(); ++string) {
        OnString& on = state.on(string);
        if (on.note == OnString::kNoNote || on.why == Why::Unheld)
            continue;
        if (!m_line.takesFinger(on.note, on.fret)) {
            if (!m_line.note(on.note).dead)
                open |= 1U << static_cast<unsigned>(string);
        } else if (m_line.note(on.note).fixed_finger == Finger::Thumb) {
            on.finger = Finger::Thumb; // over the neck, beside the fingers
        } else {
            (on.why == Why::Kept ? waiting : stops).push_back({string, on.fret});
        }
    }
    const std::size_t sounding = stops.size();
    stops.insert(stops.end(), waiting.begin(), waiting.end());
    if (stops.empty()) {
        for (const Context& hand : hands) {
            state.hand_fret = static_cast<std::int8_t>(hand.hand_fret);
            const double own = ownCost(moment, laying, state);
            state.cost = static_cast<float>(own);
            add(state, std::max(so_far, hand.cost) + own, found);
        }
        return;
    }
    const auto& shapes = m_shapes.of(stops, sounding, open);
    for (std::size_t s = 0; s < std::min(kMostShapes, shapes.size()); ++s) {
        const auto& [shape, usual, cost] = shapes[s];
        state.hand_fret = static_cast<std::int8_t>(shape.hand_fret);
        state.usual = usual;
        for (std::size_t k = 0; k < stops.size(); ++k)
            state.on(stops[k].string).finger = shape.fingers[k];
        if (!asSet(state))
            continue;
        const double own = ownCost(moment, laying, state) + cost;
        state.cost = static_cast<float>(own);
        add(state, so_far + own, found);
    }
}

// So many notes at once that no way to take them was found: none has a place.
void WaysToHold::addNothing(const std::vector<Context>& hands, std::vector<Found>& found) {
    HandState state;
    for (const Context& hand : hands) {
        state.hand_fret = static_cast<std::int8_t>(hand.hand_fret);
        add(state, hand.cost, found);
    }
}

void WaysToHold::add(const HandState& state, double at_least, std::vector<Found>& found) {
    if (at_least > m_best + kHopeless)
        return;
    m_best = std::min(m_best, at_least);
    found.push_back({state, at_least});
}

std::vector<HandState> WaysToHold::cheapestOf(const std::vector<Found>& found) {
    std::vector<const Found*> order;
    for (const Found& one : found)
        if (one.at_least <= m_best + kHopeless)
            order.push_back(&one);
    std::ranges::stable_sort(order, {}, &Found::at_least);
    std::vector<HandState> states;
    for (const Found* found_one : order) {
        const Found& one = *found_one;
        const bool known = std::ranges::any_of(states, [&one](const HandState& s) {
            return s.hand_fret == one.state.hand_fret && s.strings == one.state.strings;
        });
        if (known)
            continue;
        if (states.size() == kMostStates) {
            m_complete = false;
            break;
        }
        states.push_back(one.state);
    }
    return states;
}

} // namespace wirenote
