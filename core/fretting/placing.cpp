#include "fretting/placing.h"

#include "fretting/fingers.h"
#include "fretting/likeness.h"
#include "fretting/playable.h"
#include "fretting/reasons.h"
#include "fretting/solver.h"
#include "hand/candidates.h"
#include "piece/one_stroke.h"
#include "strings/string_traits.h"
#include "strings/tone_traits.h"

#include <algorithm>

namespace wirenote {
namespace {

constexpr std::size_t kReach = 24;
constexpr double kRest_s = 1.5;

LineNote
lineNote(const Instrument& instrument, const std::vector<StringTrait>& traits, const Row& row) {
    const auto& [note, plan] = row;
    const HeardFacts heard = note.heard();
    LineNote line;
    line.onset_s = note.onset_s();
    line.offset_s = note.offset_s();
    line.midi = note.frettedMidi();
    line.belief = note.existence.probability;
    line.harmonic = note.has(Technique::Harmonic);
    line.slur = note.has(Technique::Slide)      ? Slur::Slide
                : note.has(Technique::HammerOn) ? Slur::Hammer
                : note.has(Technique::PullOff)  ? Slur::Pull
                                                : Slur::None;
    line.drawn_semitones = note.bendSemitones();
    line.vibrato = note.has(Technique::Vibrato);
    line.squeak_before = heard.squeak_before;
    if (!line.harmonic && line.midi == note.midi()) { // else another length of the string sounds
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

// Strokes of three and more strings whose notes come one after the other; the line is of these
// notes.
void markStrums(std::vector<LineNote>& line, std::span<const Note> notes) {
    for (LineNote& note : line)
        note.alone = true;
    constexpr std::size_t kFewest = 3;
    constexpr double kLeastStep_s = 0.004; // a hand that plucks takes all at once
    for (const auto& stroke : strokesOf(notes)) {
        for (const std::size_t i : stroke)
            line[i].alone = stroke.size() == 1;
        const double spread_s = notes[stroke.back()].onset_s() - notes[stroke.front()].onset_s();
        if (stroke.size() >= kFewest &&
            spread_s >= kLeastStep_s * static_cast<double>(stroke.size() - 1))
            for (const std::size_t i : stroke)
                line[i].crossed = true;
    }
}

void fixAsIs(LineNote& line, const NotePlan& plan) {
    if (!plan.placed())
        return;
    line.fixed_position = plan.position.value;
    if (plan.finger.value != Finger::Unknown)
        line.fixed_finger = plan.finger.value;
    if (plan.hand_fret > 0)
        line.fixed_hand_fret = plan.hand_fret;
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
    plan.hand_fret = placement.state.hand_fret;
    if (!plan.position.isSet()) {
        plan.position = {};
        plan.position.value = placement.state.position;
        for (const PlaceProbability& p : placement.places) {
            if (p.position == placement.state.position)
                plan.position.probability = p.probability;
            else if (p.probability > 0.005)
                plan.position.runners_up.push_back({p.position, p.probability});
        }
        if (!reasons.empty() && reasons.front().basis == Basis::Heard)
            plan.position.basis = Basis::Heard;
        plan.position.reasons = std::move(reasons);
    }
}

// The notes of a part as they would be taken; one note on each side is as it is. With `alike`, like
// strokes speak for each other as they are placed already.
std::vector<NotePlan> solvePart(const Instrument& instrument,
                                const Rows& rows,
                                const std::vector<StringTrait>& traits,
                                IndexSpan part,
                                const HandModel& model,
                                bool alike) {
    const std::size_t first = part.first > 0 ? part.first - 1 : part.first;
    const std::size_t last = std::min(rows.size(), part.end + 1);
    std::vector<LineNote> line;
    for (std::size_t i = first; i < last; ++i) {
        line.push_back(lineNote(instrument, traits, rows[i]));
        if (i < part.first || i >= part.end)
            fixAsIs(line.back(), rows[i].plan);
    }
    markStrums(line, rows.notes().subspan(first, last - first));
    if (alike) {
        auto evidence = likenessEvidence(instrument.stringCount(), rows, part);
        for (std::size_t i = part.first; i < part.end; ++i)
            std::ranges::move(evidence[i - part.first],
                              std::back_inserter(line[i - first].evidence));
    }
    auto placements = solveLine(instrument, line, model);
    makePlayable(instrument, line, placements);
    std::vector<NotePlan> plans;
    for (std::size_t i = part.first; i < part.end; ++i) {
        plans.push_back(rows[i].plan);
        writePlan(plans.back(),
                  placements[i - first],
                  reasonsFor(instrument, line, placements, i - first));
    }
    return plans;
}

void writeFinger(NotePlan& plan, const FingerChoice& choice) {
    plan.hand_fret = choice.hand_fret;
    for (Reason& reason : plan.position.reasons)
        if (reason.kind == ReasonKind::StaysInPosition && choice.hand_fret > 0)
            reason.a = choice.hand_fret;
    if (plan.finger.isSet())
        return;
    plan.finger = {};
    plan.finger.value = choice.finger;
    plan.finger.probability = choice.probability;
    for (const auto& other : choice.others)
        if (other.probability > 0.02)
            plan.finger.runners_up.push_back(other);
    plan.finger.reasons = choice.reasons;
}

// The fingers of all notes, by their places.
void fingerAll(const Instrument& instrument,
               std::span<const Note> notes,
               std::vector<NotePlan>& plans) {
    const auto choices = chooseFingers(instrument, Rows(notes, plans));
    for (std::size_t i = 0; i < plans.size(); ++i)
        writeFinger(plans[i], choices[i]);
}

// The fingers of a part whose plans are new; what is about it keeps its own.
void fingerPart(const Instrument& instrument,
                const Rows& rows,
                IndexSpan part,
                std::vector<NotePlan>& plans) {
    const std::size_t first = part.first > kReach ? part.first - kReach : 0;
    const std::size_t last = std::min(rows.size(), part.end + kReach);
    std::vector<NotePlan> about;
    for (std::size_t i = first; i < last; ++i) {
        const bool within = i >= part.first && i < part.end;
        about.push_back(within ? plans[i - part.first] : rows[i].plan);
        if (!within && about.back().finger.value != Finger::Unknown)
            about.back().finger.set(about.back().finger.value);
    }
    const auto choices =
        chooseFingers(instrument, Rows(rows.notes().subspan(first, last - first), about));
    for (std::size_t i = part.first; i < part.end; ++i)
        writeFinger(plans[i - part.first], choices[i - first]);
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
              FrettingSchool school,
              const HandModel& model) {
    static_cast<void>(school); // one finger a fret is the only one so far
    Placing placing{{rows.plans().begin(), rows.plans().end()}, std::move(traits)};
    const auto now = [&] { return Rows(rows.notes(), placing.plans); };
    const auto solve = [&](bool alike) {
        placing.plans =
            solvePart(instrument, now(), placing.traits, {0, rows.size()}, model, alike);
    };
    // Without stiffness to begin with, the tone would only confirm what the hand prefers.
    const bool heard = std::ranges::any_of(
        rows.notes(), [](const Note& note) { return note.heard().stiffness.told(); });
    if (!heard) {
        solve(false);
        solve(true);
        fingerAll(instrument, rows.notes(), placing.plans);
        return placing;
    }
    if (placing.traits.size() != instrument.strings.size())
        placing.traits = statedTraits(instrument);
    // Strings that were learned before need no more than a look at what is new.
    const bool learned = std::ranges::any_of(
        placing.traits, [](const StringTrait& t) { return t.basis == Basis::Heard; });
    const int rounds = learned ? 1 : TraitModel{}.rounds;
    if (!learned)
        placing.plans = solvePart(instrument, now(), {}, {0, rows.size()}, model, false);
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
    fingerAll(instrument, rows.notes(), placing.plans);
    return placing;
}

std::vector<NotePlan> placePart(const Instrument& instrument,
                                const Rows& rows,
                                const std::vector<StringTrait>& traits,
                                FrettingSchool school,
                                IndexSpan part,
                                const HandModel& model) {
    static_cast<void>(school);
    auto plans = solvePart(instrument, rows, traits, part, model, true);
    fingerPart(instrument, rows, part, plans);
    return plans;
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
