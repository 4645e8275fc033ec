#include "hand/hand_costs.h"

#include "piece/one_stroke.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <limits>

namespace wirenote {
namespace {

constexpr double kImpossible = std::numeric_limits<double>::infinity();

double shiftCost(const HandModel& m,
                 const LineNote& a,
                 const HandState& from,
                 const LineNote& b,
                 const HandState& to) {
    const int frets = std::abs(to.hand_fret - from.hand_fret);
    if (frets == 0)
        return 0.0;
    if (b.slur == Slur::Slide)
        return m.slide_per_fret * frets;
    const double time = std::max(0.02, b.onset_s - a.onset_s);
    const double hurry = 1.0 + m.hurry / time;
    const double ease = from.open() || to.open() ? m.open_eases_shift : 1.0;
    return (m.shift + m.per_fret_shifted * frets) * hurry * ease;
}

double slurCost(const HandModel& m, const LineNote& b, const HandState& from, const HandState& to) {
    if (from.position.string != to.position.string)
        return kImpossible;
    const int climb = to.position.fret - from.position.fret;
    switch (b.slur) {
    case Slur::Hammer:
        return to.finger <= from.finger && !from.open() ? m.slur_wrong_finger : 0.0;
    case Slur::Pull:
        return climb >= 0 || (to.finger >= from.finger && !to.open()) ? m.slur_wrong_finger : 0.0;
    case Slur::Slide:
        return to.finger != from.finger || to.open() ? 2.0 * m.slur_wrong_finger : 0.0;
    case Slur::None:
        break;
    }
    return 0.0;
}

double drawnCost(const HandModel& m,
                 const Instrument& instrument,
                 const LineNote& note,
                 const HandState& s) {
    double cost = 0.0;
    if (note.drawn_semitones > 0.0) {
        if (s.open())
            return m.bend_open;
        const int fret = instrument.capo + s.position.fret;
        double each = m.bend_low * std::max(0, m.bend_easy_fret - fret);
        if (s.finger == Finger::Index)
            each += m.bend_by_index;
        if (s.finger == Finger::Middle || s.finger == Finger::Little)
            each += m.bend_by_other;
        if (instrument.string(s.position.string).wound())
            each += m.bend_wound;
        cost += note.drawn_semitones * each;
    }
    if (note.vibrato)
        cost += s.open() ? m.vibrato_open : m.vibrato_low * std::max(0, 3 - s.position.fret);
    return cost;
}

} // namespace

double LineNote::against(int string) const {
    double sum = 0.0;
    for (const StringEvidence& kind : evidence)
        sum += kind.against(string);
    return sum;
}

double unaryCost(const HandModel& m,
                 const Instrument& instrument,
                 const LineNote& note,
                 const HandState& s) {
    double cost = note.against(s.position.string) + drawnCost(m, instrument, note, s);
    if (s.open())
        return cost + (s.hand_fret > 5 ? m.open_in_high_position : 0.0);
    cost += m.press + (note.alone ? m.per_fret_alone : m.per_fret) * s.position.fret;
    if (s.finger == Finger::Little)
        cost += m.little_finger;
    const int reach = s.position.fret - s.hand_fret; // 0..3 is one finger per fret
    if (reach < 0)
        cost += m.index_back;
    if (reach > 3) {
        const double span = fretPlace_mm(instrument.scale_mm, instrument.capo + s.position.fret) -
                            fretPlace_mm(instrument.scale_mm, instrument.capo + s.hand_fret);
        cost += m.little_ahead + m.per_mm_over * std::max(0.0, span - m.comfortable_span_mm);
    }
    return cost;
}

namespace {

// Two notes of one grip: from low to high their strings go from thick to thin.
double togetherCost(const HandModel& m,
                    const LineNote& a,
                    const HandState& from,
                    const LineNote& b,
                    const HandState& to) {
    double cost = 0.0;
    const bool higher = b.midi > a.midi;
    const int step = from.position.string - to.position.string; // towards the thinner
    if (step == 0 || higher != (step > 0))
        cost += m.strings_out_of_order;
    if (from.finger == to.finger && !from.open() && !to.open() &&
        from.position.fret != to.position.fret)
        cost += m.finger_used_twice;
    if (from.hand_fret != to.hand_fret)
        cost += m.together_moves_hand;
    const double skip = b.crossed ? m.skipped_in_strum : 0.5 * m.string_skipped;
    return cost + skip * std::max(0, std::abs(step) - 1);
}

} // namespace

// A whistle between two notes is a hand that moves along a wound string, nearly always.
double squeakCost(const HandModel& m,
                  const Instrument& instrument,
                  const LineNote& b,
                  const HandState& from,
                  const HandState& to) {
    if (!b.squeak_before)
        return 0.0;
    if (from.hand_fret == to.hand_fret)
        return m.squeak_unmoved;
    const auto onWound = [&instrument](const HandState& s) {
        return !s.open() && instrument.string(s.position.string).wound();
    };
    return onWound(from) || onWound(to) ? 0.0 : m.squeak_on_plain;
}

double stepCost(const HandModel& m,
                const Instrument& instrument,
                const LineNote& a,
                const HandState& from,
                const LineNote& b,
                const HandState& to) {
    if (beginTogether(a.onset_s, b.onset_s) && b.slur == Slur::None)
        return togetherCost(m, a, from, b, to);
    double cost = shiftCost(m, a, from, b, to) + squeakCost(m, instrument, b, from, to);
    const int crossed = std::abs(to.position.string - from.position.string);
    cost += m.per_string_crossed * crossed + (crossed > 1 ? m.string_skipped : 0.0);
    if (b.slur != Slur::None)
        return cost + slurCost(m, b, from, to);
    if (a.midi == b.midi && from.position != to.position)
        cost += m.same_pitch_elsewhere;
    if (crossed == 0 && a.midi != b.midi && a.offset_s > b.onset_s + 0.08)
        cost += m.rings_on_same_string;
    const bool same_finger = from.finger == to.finger && !from.open() && !to.open();
    if (same_finger && crossed > 0 && from.position.fret != to.position.fret &&
        from.hand_fret == to.hand_fret)
        cost += m.same_finger_hop;
    return cost;
}

} // namespace wirenote
