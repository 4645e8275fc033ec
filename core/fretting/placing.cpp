#include "fretting/placing.h"

#include "fretting/part_line.h"
#include "fretting/reasons.h"
#include "fretting/solver.h"
#include "hand/candidates.h"
#include "piece/one_stroke.h"
#include "strings/string_traits.h"
#include "strings/tone_traits.h"

#include <algorithm>

namespace wirenote {
namespace {

constexpr double kRest_s = 1.5;

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
    const auto [line, first] = partLine(instrument, rows, traits, part, way.as_heard, alike);
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
    const std::size_t lowest = from > kPartReach ? from - kPartReach : 0;
    while (from > lowest && (from == notes.size() || from == to ||
                             notes[from].onset_s() - notes[from - 1].offset_s() < kRest_s))
        --from;
    const std::size_t highest = std::min(notes.size(), to + kPartReach);
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
