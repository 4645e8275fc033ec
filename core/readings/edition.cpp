#include "readings/edition.h"

#include "piece/timeline_map.h"
#include "readings/pairing.h"

#include <algorithm>

namespace wirenote {
namespace {

// What the score says of both hands, where this neck has it.
NotePlan planFromScore(const Instrument& instrument, const Note& note, const NotePlan& from) {
    NotePlan plan;
    plan.position.value = {0, 0};
    const Position place = from.position.value;
    if (from.placed() && instrument.hasString(place.string) &&
        place.fret <= instrument.highestFret() &&
        instrument.sounds(place, note.frettedMidi(), note.has(Technique::Harmonic))) {
        plan.position.set(place, SetWhy::Score);
        if (from.finger.value != Finger::Unknown)
            plan.finger.set(from.finger.value, SetWhy::Score);
    }
    if (from.stroke.value != Stroke::Unknown)
        plan.stroke.set(from.stroke.value, SetWhy::Score);
    return plan;
}

} // namespace

Reading readingOfScore(const Piece& piece, const Piece& score, std::string name, NoteId& next_id) {
    Reading reading;
    reading.head.name = std::move(name);
    reading.head.made_from = score.title;
    const NotePairs pairs = pairNotes(piece, score);
    reading.head.semitones = pairs.semitones;
    for (const Note& note : piece.notes) {
        reading.plans.emplace_back().note = note.id;
        reading.plans.back().position.value = {0, 0};
    }
    for (const auto& [i, k] : pairs.same) {
        const Note& theirs = score.notes[k];
        NotePlan plan = planFromScore(piece.instrument, theirs, score.asPlayed().plans[k]);
        plan.note = piece.notes[i].id;
        plan.departure.semitones = theirs.midi() - pairs.semitones - piece.notes[i].midi();
        if (theirs.techniques != piece.notes[i].techniques)
            plan.departure.techniques = theirs.techniques;
        if (!plan.departure.none())
            plan.departure.why = DepartureWhy::Edition;
        reading.plans[i] = std::move(plan);
    }
    for (const std::size_t i : pairs.only_a)
        reading.plans[i].departure = {DepartureWhy::Edition, true, 0, {}};
    const TimelineMap here(piece.timeline);
    const TimelineMap there(score.timeline);
    for (const std::size_t k : pairs.only_b) {
        AddedNote added{score.notes[k],
                        planFromScore(piece.instrument, score.notes[k], score.asPlayed().plans[k])};
        Note& note = added.note;
        note.id = added.plan.note = next_id++;
        const double from_s = std::max(0.0, here.timeAt(there.quartersAt(note.onset_s())));
        const double to_s = here.timeAt(there.quartersAt(note.offset_s()));
        note.time.set({from_s, std::max(from_s + 0.02, to_s)}, SetWhy::Score);
        note.existence.set(true, SetWhy::Score);
        note.pitch.set(note.pitch.value, SetWhy::Score);
        note.facts.clear();
        reading.head.added.push_back(std::move(added));
    }
    std::ranges::stable_sort(
        reading.head.added, {}, [](const AddedNote& one) { return one.note.onset_s(); });
    return reading;
}

} // namespace wirenote
