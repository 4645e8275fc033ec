#include "fretting/placing.h"

#include "fretting/likeness.h"
#include "fretting/reasons.h"
#include "fretting/schools.h"
#include "fretting/solver.h"
#include "fretting/wishes.h"
#include "hand/candidates.h"
#include "piece/one_stroke.h"
#include "strings/string_traits.h"
#include "strings/tone_traits.h"

#include <algorithm>

namespace wirenote {
namespace {

constexpr std::size_t kReach = 24;
constexpr double kRest_s = 1.5;

// How the hand is to play: its figures, and whether what was heard of strings counts.
struct Way {
    HandModel model;
    bool as_heard = true;
};
Way wayOf(const ReadingHead& head, const Instrument& instrument, const Rows& rows) {
    return {playerModel(wishedModel(schoolModel(head.fretting_school, instrument), head.wish),
                        head.fretting_school,
                        instrument,
                        rows),
            head.wish.kind == WishKind::None};
}

LineNote lineNote(const Instrument& instrument,
                  const std::vector<StringTrait>& traits,
                  const Row& row,
                  bool as_heard) {
    const auto& [note, plan] = row;
    const HeardFacts heard = note.heard();
    LineNote line;
    line.onset_s = note.onset_s();
    line.offset_s = note.offset_s();
    line.midi = note.frettedMidi();
    line.belief = note.existence.probability;
    line.harmonic = note.has(Technique::Harmonic);
    line.dead = !note.pitched();
    line.grace = note.has(Technique::Grace);
    line.slur = note.has(Technique::Slide)      ? Slur::Slide
                : note.has(Technique::HammerOn) ? Slur::Hammer
                : note.has(Technique::PullOff)  ? Slur::Pull
                                                : Slur::None;
    line.drawn_semitones = note.bendSemitones();
    line.vibrato = note.has(Technique::Vibrato);
    line.squeak_before = as_heard && heard.squeak_before;
    if (as_heard && !line.harmonic &&
        line.midi == note.midi()) { // else another length of the string sounds
        line.evidence = toneEvidence(instrument, traits, note);
        line.evidence.push_back({ReasonKind::StiffnessFits,
                                 Basis::Heard,
                                 stiffnessCosts(instrument, traits, heard.stiffness, line.midi)});
    }
    if (plan.position.isSet() && plan.placed())
        line.fixed_position = plan.position.value;
    if (plan.finger.isSet())
        line.fixed_finger = plan.finger.value;
    return line;
}

// A note of a line: nothing else begins or sounds with it.
void markAlone(std::vector<LineNote>& line, const std::vector<std::vector<std::size_t>>& strokes) {
    constexpr double kOverlap_s = 0.08; // shorter, and notes only touch
    for (LineNote& note : line)
        note.alone = true;
    for (const auto& stroke : strokes)
        for (const std::size_t i : stroke)
            line[i].alone = stroke.size() == 1;
    double sounds_until = -1.0;
    for (std::size_t i = 0; i < line.size(); ++i) {
        if (sounds_until > line[i].onset_s + kOverlap_s ||
            (i + 1 < line.size() && line[i].offset_s > line[i + 1].onset_s + kOverlap_s))
            line[i].alone = false;
        sounds_until = std::max(sounds_until, line[i].offset_s);
    }
}

// Strokes of three and more strings whose notes come one after the other; the line is of these
// notes.
void markStrums(std::vector<LineNote>& line, std::span<const Note> notes) {
    constexpr std::size_t kFewest = 3;
    constexpr double kLeastStep_s = 0.004; // a hand that plucks takes all at once
    const auto strokes = strokesOf(notes);
    markAlone(line, strokes);
    for (const auto& stroke : strokes) {
        const double spread_s = notes[stroke.back()].onset_s() - notes[stroke.front()].onset_s();
        if (stroke.size() >= kFewest &&
            spread_s >= kLeastStep_s * static_cast<double>(stroke.size() - 1))
            for (const std::size_t i : stroke)
                line[i].crossed = true;
    }
}

// The nearest note that a person placed on a fret tells where the hand is.
void markGiven(std::vector<LineNote>& line, const Rows& rows, std::size_t first) {
    std::size_t next = 0; // the first given one at or after a note
    const LineNote* before = nullptr;
    const auto given = [&](std::size_t i) {
        const NotePlan& plan = rows[first + i].plan;
        return plan.position.isSet() && plan.placed() && plan.position.value.fret > 0;
    };
    for (std::size_t i = 0; i < line.size(); ++i) {
        next = std::max(next, i);
        while (next < line.size() && !given(next))
            ++next;
        const LineNote* after = next < line.size() ? &line[next] : nullptr;
        const bool back = before && (!after || line[i].onset_s - before->onset_s <=
                                                   after->onset_s - line[i].onset_s);
        if (const LineNote* nearest = back ? before : after)
            line[i].near_fret = nearest->fixed_position->fret;
        if (given(i))
            before = &line[i];
    }
}

void fixAsIs(LineNote& line, const NotePlan& plan) {
    if (!plan.placed())
        return;
    line.fixed_position = plan.position.value;
    if (plan.finger.value != Finger::Unknown)
        line.fixed_finger = plan.finger.value;
}

void writeFinger(NotePlan& plan, const LinePlacement& placement) {
    if (plan.finger.isSet())
        return;
    plan.finger = {};
    plan.finger.value = placement.finger;
    plan.finger.probability = placement.finger_probability;
    for (const auto& other : placement.other_fingers)
        if (other.probability > 0.02)
            plan.finger.runners_up.push_back(other);
    plan.finger.reasons = placement.finger_reasons;
}

void writePlan(NotePlan& plan, const LinePlacement& placement, std::vector<Reason> reasons) {
    if (!placement.possible) {
        plan.position = {{0, 0},
                         Basis::Reasoned,
                         0.0,
                         {},
                         {{placement.out_of_hand ? ReasonKind::OutOfHand : ReasonKind::NothingFits,
                           Basis::Reasoned,
                           0,
                           0,
                           0.0}}};
        plan.finger = {};
        plan.hand_fret = 0;
        return;
    }
    plan.hand_fret = placement.hand_fret;
    if (!plan.position.isSet()) {
        plan.position = {};
        plan.position.value = placement.position;
        for (const PlaceProbability& p : placement.places) {
            if (p.position == placement.position)
                plan.position.probability = p.probability;
            else if (p.probability > 0.005)
                plan.position.runners_up.push_back({p.position, p.probability});
        }
        if (!reasons.empty() && reasons.front().basis == Basis::Heard)
            plan.position.basis = Basis::Heard;
        plan.position.reasons = std::move(reasons);
    }
    writeFinger(plan, placement);
}

// The notes of a part as they would be taken; what is about it is as it is. With `alike`, like
// strokes speak for each other as they are placed already.
std::vector<NotePlan> solvePart(const Instrument& instrument,
                                const Rows& rows,
                                const std::vector<StringTrait>& traits,
                                IndexSpan part,
                                const Way& way,
                                bool alike) {
    const std::size_t first = part.first > kReach ? part.first - kReach : 0;
    const std::size_t last = std::min(rows.size(), part.end + kReach);
    std::vector<LineNote> line;
    for (std::size_t i = first; i < last; ++i) {
        line.push_back(lineNote(instrument, traits, rows[i], way.as_heard));
        if (i < part.first || i >= part.end)
            fixAsIs(line.back(), rows[i].plan);
    }
    markStrums(line, rows.notes().subspan(first, last - first));
    markGiven(line, rows, first);
    if (alike) {
        auto evidence = likenessEvidence(instrument.stringCount(), rows, part);
        for (std::size_t i = part.first; i < part.end; ++i)
            std::ranges::move(evidence[i - part.first],
                              std::back_inserter(line[i - first].evidence));
    }
    const auto placements = solveLine(instrument, line, way.model).notes;
    std::vector<NotePlan> plans;
    for (std::size_t i = part.first; i < part.end; ++i) {
        plans.push_back(rows[i].plan);
        writePlan(plans.back(),
                  placements[i - first],
                  reasonsFor(instrument, line, placements, i - first));
    }
    return plans;
}

// Which string each note is expected on before its stiffness is looked at: what the hand prefers,
// levelled, as it may be wrong of whole passages; what a person set is certain.
std::vector<std::vector<double>> expectedStrings(const Rows& rows, int strings) {
    constexpr double kLevelled = 0.4;
    auto shares = stringProbabilities(rows, strings);
    for (std::size_t i = 0; i < rows.size(); ++i)
        for (double& share : shares[i])
            if (!rows[i].plan.position.isSet())
                share = kLevelled + (1.0 - kLevelled) * share;
    return shares;
}

} // namespace

Placing place(const Instrument& instrument,
              const Rows& rows,
              std::vector<StringTrait> traits,
              const ReadingHead& head) {
    const Way way = wayOf(head, instrument, rows);
    Placing placing{{rows.plans().begin(), rows.plans().end()}, std::move(traits)};
    const auto now = [&] { return Rows(rows.notes(), placing.plans); };
    const auto solve = [&](bool alike) {
        placing.plans = solvePart(instrument, now(), placing.traits, {0, rows.size()}, way, alike);
    };
    // Without stiffness to begin with, the tone would only confirm what the hand prefers.
    const bool heard = way.as_heard && std::ranges::any_of(rows.notes(), [](const Note& note) {
                           return note.heard().stiffness.told();
                       });
    if (!heard) {
        solve(false);
        if (std::ranges::any_of(strokesOf(rows.notes()),
                                [](const auto& stroke) { return stroke.size() > 1; }))
            solve(true); // like strokes speak for each other
        return placing;
    }
    if (placing.traits.size() != instrument.strings.size())
        placing.traits = statedTraits(instrument);
    // Strings that were learned before need no more than a look at what is new.
    const bool learned = std::ranges::any_of(
        placing.traits, [](const StringTrait& t) { return t.basis == Basis::Heard; });
    const int rounds = learned ? 1 : TraitModel{}.rounds;
    if (!learned)
        placing.plans = solvePart(instrument, now(), {}, {0, rows.size()}, way, false);
    const auto expected = setTraits(
        instrument, rows.notes(), placing.traits, expectedStrings(now(), instrument.stringCount()));
    if (!learned)
        for (std::size_t s = 0; s < expected.size(); ++s)
            if (placing.traits[s].basis != Basis::Set)
                placing.traits[s].log_factor = expected[s].log_factor;
    for (int round = 0; round < rounds; ++round) {
        solve(false);
        placing.traits = learnedTraits(instrument,
                                       rows.notes(),
                                       placing.traits,
                                       expected,
                                       stringProbabilities(now(), instrument.stringCount()));
    }
    // The tone is learned once the stiffness has placed what it can, so that it cannot talk itself
    // into a mistake.
    placing.traits = withTone(instrument,
                              now(),
                              std::move(placing.traits),
                              stringProbabilities(now(), instrument.stringCount()));
    solve(true);
    return placing;
}

std::vector<NotePlan> placePart(const Instrument& instrument,
                                const Rows& rows,
                                const std::vector<StringTrait>& traits,
                                const ReadingHead& head,
                                IndexSpan part) {
    const Way way = wayOf(head, instrument, rows);
    return solvePart(instrument, rows, traits, part, way, true);
}

IndexSpan neighbourhood(std::span<const Note> notes, double time_s) {
    const auto at =
        std::lower_bound(notes.begin(), notes.end(), time_s, [](const Note& n, double t) {
            return n.onset_s() < t;
        });
    auto from = static_cast<std::size_t>(at - notes.begin());
    auto to = from;
    const std::size_t lowest = from > kReach ? from - kReach : 0;
    while (from > lowest && (from == notes.size() || from == to ||
                             notes[from].onset_s() - notes[from - 1].offset_s() < kRest_s))
        --from;
    const std::size_t highest = std::min(notes.size(), to + kReach);
    while (to < highest && (to == from || notes[to].onset_s() - notes[to - 1].offset_s() < kRest_s))
        ++to;
    return {from, to};
}

std::vector<Position>
placesOf(const std::vector<NearMiss>& misses, const Instrument& instrument, const Rows& rows) {
    std::vector<Position> places;
    for (const NearMiss& miss : misses) {
        unsigned busy = 0;
        int hand_fret = 1;
        double nearest_s = 1e9;
        for (const auto& [note, plan] : rows) {
            if (note.onset_s() < miss.time.start_s + 0.1 &&
                note.offset_s() > miss.time.start_s + 0.1)
                busy |= 1U << static_cast<unsigned>(plan.position.value.string);
            if (const double away_s = std::abs(note.onset_s() - miss.time.start_s);
                away_s < nearest_s && plan.hand_fret > 0) {
                nearest_s = away_s;
                hand_fret = plan.hand_fret;
            }
        }
        Position best{0, 0};
        int least = 1000;
        for (const Position& place : candidatesFor(instrument, miss.midi)) {
            const int away = (place.fret == 0 ? 0 : std::abs(place.fret - hand_fret)) +
                             ((busy >> static_cast<unsigned>(place.string)) & 1U ? 30 : 0);
            if (away < least) {
                least = away;
                best = place;
            }
        }
        places.push_back(best);
    }
    return places;
}

} // namespace wirenote
