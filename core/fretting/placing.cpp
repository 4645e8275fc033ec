#include "fretting/placing.h"

#include "fretting/candidates.h"
#include "fretting/likeness.h"
#include "fretting/reasons.h"
#include "fretting/solver.h"
#include "fretting/string_traits.h"
#include "fretting/tone_traits.h"
#include "piece/one_stroke.h"

#include <algorithm>

namespace wirenote {
namespace {

constexpr std::size_t kReach = 24;
constexpr double kRest_s = 1.5;

LineNote lineNote(const Piece& piece, std::size_t i) {
    const Note& note = piece.notes[i];
    const NotePlan& plan = piece.reading.plans[i];
    LineNote line;
    line.onset_s = note.onset_s();
    line.offset_s = note.offset_s();
    line.midi = note.frettedMidi();
    line.harmonic = note.has(Technique::Harmonic);
    line.slur = note.has(Technique::Slide)      ? Slur::Slide
                : note.has(Technique::HammerOn) ? Slur::Hammer
                : note.has(Technique::PullOff)  ? Slur::Pull
                                                : Slur::None;
    line.drawn_semitones = note.bendSemitones();
    line.vibrato = note.has(Technique::Vibrato);
    line.squeak_before = note.heard.squeak_before;
    if (!line.harmonic && line.midi == note.midi()) { // else another length of the string sounds
        line.evidence = toneEvidence(piece.instrument, piece.string_traits, note);
        line.evidence.push_back(
            {ReasonKind::StiffnessFits,
             Basis::Heard,
             stiffnessCosts(
                 piece.instrument, piece.string_traits, note.heard.stiffness, line.midi)});
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
    constexpr std::size_t kFewest = 3;
    constexpr double kLeastStep_s = 0.004; // a hand that plucks takes all at once
    for (const auto& stroke : strokesOf(notes)) {
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
                         {{ReasonKind::NothingFits, Basis::Reasoned, 0, 0, 0.0}}};
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
    if (!plan.finger.isSet()) {
        plan.finger = {};
        plan.finger.value = placement.state.finger;
        for (const FingerProbability& f : placement.fingers) {
            if (f.finger == placement.state.finger)
                plan.finger.probability =
                    placement.state.open() ? f.probability : std::min(f.probability, kFingerTrust);
            else if (f.probability > 0.02)
                plan.finger.runners_up.push_back({f.finger, f.probability});
        }
        if (!placement.state.open())
            plan.finger.reasons = {
                {ReasonKind::FingerPerFret,
                 Basis::Reasoned,
                 static_cast<int>(placement.state.finger) - static_cast<int>(Finger::Index) + 1,
                 placement.state.hand_fret,
                 0.0}};
    }
}

// Solves notes [from, to); one note on each side is fixed as it is. With `alike`, like strokes
// speak for each other as they are placed already.
void placeSpan(Piece& piece, std::size_t from, std::size_t to, const HandModel& model, bool alike) {
    const std::size_t first = from > 0 ? from - 1 : from;
    const std::size_t last = std::min(piece.notes.size(), to + 1);
    std::vector<LineNote> line;
    for (std::size_t i = first; i < last; ++i) {
        line.push_back(lineNote(piece, i));
        if (i < from || i >= to)
            fixAsIs(line.back(), piece.reading.plans[i]);
    }
    markStrums(line, std::span(piece.notes).subspan(first, last - first));
    if (alike) {
        auto evidence = likenessEvidence(piece, from, to);
        for (std::size_t i = from; i < to; ++i)
            std::ranges::move(evidence[i - from], std::back_inserter(line[i - first].evidence));
    }
    const auto placements = solveLine(piece.instrument, line, model);
    for (std::size_t i = from; i < to; ++i)
        writePlan(piece.reading.plans[i],
                  placements[i - first],
                  reasonsFor(piece.instrument, line, placements, i - first));
}

} // namespace

void placeAll(Piece& piece, const HandModel& model) {
    // Without stiffness to begin with, the tone would only confirm what the hand prefers.
    const bool heard = std::ranges::any_of(
        piece.notes, [](const Note& note) { return note.heard.stiffness.told(); });
    if (!heard) {
        placeSpan(piece, 0, piece.notes.size(), model, false);
        placeSpan(piece, 0, piece.notes.size(), model, true);
        return;
    }
    if (piece.string_traits.size() != piece.instrument.strings.size())
        piece.string_traits = statedTraits(piece.instrument);
    // Strings that were learned before need no more than a look at what is new.
    const bool learned = std::ranges::any_of(
        piece.string_traits, [](const StringTrait& t) { return t.basis == Basis::Heard; });
    const int rounds = learned ? 1 : TraitModel{}.rounds;
    for (int round = 0; round < rounds; ++round) {
        placeSpan(piece, 0, piece.notes.size(), model, false);
        piece.string_traits = learnedTraits(piece, stringProbabilities(piece));
    }
    // The tone is learned once the stiffness has placed what it can, so that it cannot talk itself
    // into a mistake.
    learnTone(piece, stringProbabilities(piece));
    placeSpan(piece, 0, piece.notes.size(), model, true);
}

void placeAround(Piece& piece, double time_s, const HandModel& model) {
    const auto& notes = piece.notes;
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
    if (from < to)
        placeSpan(piece, from, to, model, true);
}

void placeMisses(Piece& piece) {
    for (NearMiss& miss : piece.misses) {
        unsigned busy = 0;
        int hand_fret = 1;
        double nearest_s = 1e9;
        for (std::size_t i = 0; i < piece.notes.size(); ++i) {
            const Note& note = piece.notes[i];
            const NotePlan& plan = piece.reading.plans[i];
            if (note.onset_s() < miss.time.start_s + 0.1 &&
                note.offset_s() > miss.time.start_s + 0.1)
                busy |= 1U << static_cast<unsigned>(plan.position.value.string);
            if (const double away_s = std::abs(note.onset_s() - miss.time.start_s);
                away_s < nearest_s && plan.hand_fret > 0) {
                nearest_s = away_s;
                hand_fret = plan.hand_fret;
            }
        }
        miss.place = {0, 0};
        int least = 1000;
        for (const Position& place : candidatesFor(piece.instrument, miss.midi)) {
            const int away = (place.fret == 0 ? 0 : std::abs(place.fret - hand_fret)) +
                             ((busy >> static_cast<unsigned>(place.string)) & 1U ? 30 : 0);
            if (away < least) {
                least = away;
                miss.place = place;
            }
        }
    }
}

void endOnSameString(Piece& piece) {
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        Note& note = piece.notes[i];
        const int string = piece.reading.plans[i].position.value.string;
        if (note.time.isSet() || string == 0)
            continue;
        for (std::size_t j = i + 1;
             j < piece.notes.size() && piece.notes[j].onset_s() < note.offset_s();
             ++j)
            if (piece.reading.plans[j].position.value.string == string &&
                piece.notes[j].onset_s() > note.onset_s() + 0.03) {
                note.time.value.end_s = piece.notes[j].onset_s();
                break;
            }
    }
}

} // namespace wirenote
