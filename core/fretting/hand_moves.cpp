#include "fretting/hand_moves.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <limits>

namespace wirenote {
namespace {

constexpr int kOctave = 12;         // semitones
constexpr double kOverlap_s = 0.08; // shorter, and notes only touch

} // namespace

HandMoves::HandMoves(const HandLine& line,
                     const Moment& from_moment,
                     const std::vector<HandState>& from_states,
                     const Moment& to_moment,
                     const std::vector<HandState>& to_states)
    : m_line(line), m_model(line.model()), m_strings(line.instrument().stringCount()),
      m_hurry(1.0 + m_model.hurry_s / std::max(0.02, to_moment.onset_s - from_moment.onset_s)),
      m_single(from_moment.notes.size() == 1 && to_moment.notes.size() == 1) {
    for (const HandState& state : from_states) {
        m_from.push_back(viewOf(state));
        m_from.back().wanted = carriedFrom(line, state, to_moment);
    }
    for (const HandState& state : to_states)
        m_to.push_back(viewOf(state));
    for (const std::size_t now : to_moment.notes) {
        const LineNote& note = line.note(now);
        m_slides |= note.slur == Slur::Slide;
        m_slurs |= note.slur != Slur::None;
        m_squeaks |= note.squeak_before;
        for (const std::size_t before : from_moment.notes)
            if (note.midi == line.note(before).midi &&
                line.note(before).offset_s < note.onset_s + kOverlap_s)
                m_same_pitch.emplace_back(before, now);
    }
}

HandMoves::View HandMoves::viewOf(const HandState& state) const {
    constexpr int kHighestAlone = 4;
    View view;
    view.state = &state;
    int sounding = 0;
    for (int string = 1; string <= m_strings; ++string) {
        const OnString& on = state.on(string);
        if (on.why == Why::Nothing)
            continue;
        ++sounding;
        if (on.stopped()) {
            view.stopped[view.stop_count++] = {string, on};
            view.on_wound |= m_line.instrument().string(string).wound();
        }
        if (on.why != Why::Begins) {
            view.held.push_back({string, on});
        } else {
            view.pressed |= on.stopped();
            view.string = string;
        }
    }
    view.low_alone = state.hand_fret > 1 && sounding == 1 && view.stop_count == 1 &&
                     view.stopped.front().on.fret <= kHighestAlone;
    return view;
}

double HandMoves::cost(std::size_t from_index, std::size_t to_index) const {
    const View& from = m_from[from_index];
    const View& to = m_to[to_index];
    for (const Stop& held : to.held)
        if (!held.on.same(from.state->on(held.string)))
            return std::numeric_limits<double>::infinity();
    const double hurry = m_hurry * (from.pressed ? 1.0 : m_model.open_eases);
    const bool stays = from.state->hand_fret == to.state->hand_fret;
    double cost = fingerCost(from, to, stays, hurry) + lineCost(from, to);
    if (!from.wanted.empty())
        cost += dropCost(from, to);
    if (m_slurs)
        cost += slursCost(from, to);
    if (!m_same_pitch.empty())
        cost += repeatedCost(from, to);
    // A whistle between two notes is a hand that moves along a wound string, nearly always.
    if (m_squeaks)
        cost += stays                          ? m_model.squeak_unmoved
                : from.on_wound || to.on_wound ? 0.0
                                               : m_model.squeak_on_plain;
    // In a line among open strings, low on the neck, a finger has the number of its fret (common
    // practice).
    if (to.low_alone && !from.pressed)
        cost += m_model.open_position;
    return stays ? cost : cost + shiftCost(from, to, hurry);
}

double HandMoves::shiftCost(const View& from, const View& to, double hurry) const {
    const int moved = to.state->hand_fret - from.state->hand_fret;
    const int frets = std::abs(moved);
    if (m_slides)
        return m_model.slide_per_fret * frets;
    bool guided = false;            // a finger that was down goes along its string
    bool shape = to.stop_count > 1; // all of them do, as far as the hand
    for (const Stop& stop : to.stops()) {
        const OnString& before = from.state->on(stop.string);
        const bool along = before.stopped() && before.finger == stop.on.finger;
        guided |= along;
        shape &= along && stop.on.fret - before.fret == moved;
    }
    const double moved_there = (m_model.shift + m_model.per_fret_shifted * frets) * hurry *
                               (shape ? m_model.shape_moves : 1.0);
    return std::max(0.0, moved_there - (guided ? m_model.guided : 0.0));
}

// What rings or comes again, and is not held on.
double HandMoves::dropCost(const View& from, const View& to) const {
    double cost = 0.0;
    for (const Carried& carried : from.wanted) {
        const OnString& on = to.state->on(carried.string);
        const bool rings = carried.held.why == Why::Rings;
        if (on.why != Why::Begins) {
            if (!on.same(carried.held))
                cost += droppingCost(m_model, carried.held.why);
            continue;
        }
        const LineNote& now = m_line.note(on.note);
        const LineNote& before = m_line.note(carried.held.note);
        if (rings && now.slur == Slur::None &&
            (now.midi != before.midi || before.offset_s > now.onset_s + kOverlap_s))
            cost += m_model.rings_on_same_string;
    }
    return cost;
}

double HandMoves::slursCost(const View& from, const View& to) const {
    double cost = 0.0;
    for (int string = 1; string <= m_strings; ++string) {
        const OnString& on = to.state->on(string);
        if (on.why == Why::Begins && m_line.note(on.note).slur != Slur::None)
            cost += slurCost(from.state->on(string), on);
    }
    return cost;
}

double HandMoves::slurCost(const OnString& from, const OnString& to) const {
    if (from.note == OnString::kNoNote)
        return m_model.slur_broken;
    const double wrong = m_model.slur_wrong_finger;
    switch (m_line.note(to.note).slur) {
    case Slur::Hammer:
        return to.fret <= from.fret || (from.stopped() && to.finger <= from.finger) ? wrong : 0.0;
    case Slur::Pull:
        return to.fret >= from.fret || (to.stopped() && to.finger >= from.finger) ? wrong : 0.0;
    case Slur::Slide:
        return to.finger != from.finger || !to.stopped() ? 2.0 * wrong : 0.0;
    case Slur::None:
        break;
    }
    return 0.0;
}

// The fingers on their way: where each was, and who was where it goes.
double HandMoves::fingerCost(const View& from, const View& to, bool stays, double hurry) const {
    double cost = 0.0;
    for (const Stop& now : to.stops())
        for (const Stop& before : from.stops()) {
            if (before.string == now.string && before.on.fret == now.on.fret)
                cost += before.on.finger != now.on.finger ? m_model.refingered : 0.0;
            else if (now.on.why == Why::Begins)
                cost += before.on.finger != now.on.finger
                            ? octaveCost(before, now)
                            : sameFingerCost(before, now, *to.state, stays) * hurry;
        }
    return cost;
}

// One finger, here and there.
double HandMoves::sameFingerCost(const Stop& before,
                                 const Stop& now,
                                 const HandState& to,
                                 bool stays) const {
    const OnString& there = to.on(before.string);
    if (there.finger == before.on.finger && there.fret == before.on.fret)
        return 0.0; // it stays there, too
    if (std::abs(before.string - now.string) == 1 && before.on.fret == now.on.fret)
        return m_model.roll;
    return stays ? m_model.hop : 0.0;
}

// Two strings over and two frets up, by the index finger and the little one.
double HandMoves::octaveCost(const Stop& before, const Stop& now) const {
    const bool octave = before.string - now.string == 2 &&
                        m_line.note(now.on.note).midi - m_line.note(before.on.note).midi == kOctave;
    const bool so = before.on.finger == Finger::Index && now.on.finger == Finger::Little;
    return octave && !so ? m_model.octave : 0.0;
}

// What a line prefers on its way over the strings.
double HandMoves::lineCost(const View& from, const View& to) const {
    if (!m_single || from.string == 0 || to.string == 0)
        return 0.0;
    const int crossed = std::abs(to.string - from.string);
    return m_model.per_string_crossed * crossed + (crossed > 1 ? m_model.string_skipped : 0.0);
}

// A pitch that is struck again is struck where it was.
double HandMoves::repeatedCost(const View& from, const View& to) const {
    const auto stringOf = [this](const HandState& state, std::size_t note) {
        for (int string = 1; string <= m_strings; ++string)
            if (state.on(string).note == note)
                return string;
        return 0;
    };
    double cost = 0.0;
    for (const auto& [before, now] : m_same_pitch) {
        const int there = stringOf(*from.state, before);
        const int here = stringOf(*to.state, now);
        if (there != 0 && here != 0 && there != here)
            cost += m_model.same_pitch_elsewhere;
    }
    return cost;
}

} // namespace wirenote
