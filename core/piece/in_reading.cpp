#include "piece/in_reading.h"

#include "piece/delta.h"
#include "piece/exactness.h"

#include <algorithm>
#include <unordered_map>

namespace wirenote {
namespace {

constexpr int kOctave = 12;

bool earlier(const Note& a, const Note& b) {
    return a.onset_s() != b.onset_s() ? a.onset_s() < b.onset_s() : a.id < b.id;
}

// What was measured of its string is of the pitch it had.
void raise(Note& note, int semitones) {
    if (semitones == 0)
        return;
    note.pitch.value += semitones;
    note.forgetString();
    note.facts.clear();
    if (note.slip && note.slip->meant_midi != 0)
        note.slip->meant_midi = std::clamp(note.slip->meant_midi + semitones, 1, 127);
}

void merge(const std::vector<AddedNote>& added, Piece& view) {
    for (const AddedNote& one : added) {
        const auto at = std::ranges::upper_bound(view.notes, one.note, earlier);
        const auto offset = at - view.notes.begin();
        view.notes.insert(at, one.note);
        auto& plans = view.asPlayed().plans;
        plans.insert(plans.begin() + offset, one.plan);
    }
}

void keepPlan(const NotePlan& from, NotePlan& to) {
    to.position = from.position;
    to.finger = from.finger;
    to.stroke = from.stroke;
    to.hand_fret = from.hand_fret;
}

// By id, where a view has its notes.
std::unordered_map<NoteId, std::size_t> indexOfNotes(const Piece& view) {
    std::unordered_map<NoteId, std::size_t> at;
    for (std::size_t i = 0; i < view.notes.size(); ++i)
        at.emplace(view.notes[i].id, i);
    return at;
}

// What a person says of a note without changing what was heard of it.
void keepRemarks(const Note& from, Note& to) {
    to.voice = from.voice;
    to.need = from.need;
    to.left_open = from.left_open;
}

// The frame, but for what belongs to the reading.
void foldFrame(const Piece& before, const Piece& after, Piece& piece, std::size_t reading) {
    const auto fold = [&](auto member) {
        if (before.*member != after.*member)
            piece.*member = after.*member;
    };
    fold(&Piece::title);
    fold(&Piece::title_guessed);
    fold(&Piece::about);
    fold(&Piece::settled);
    fold(&Piece::takes);
    fold(&Piece::timeline);
    fold(&Piece::sheet);
    fold(&Piece::misses);
    fold(&Piece::chord_names);
    fold(&Piece::marks);
    fold(&Piece::followed);
    fold(&Piece::papers);
    fold(&Piece::lesson);
    piece.next_id = std::max(piece.next_id, after.next_id);
    ReadingHead& head = piece.readings[reading].head;
    if (before.key != after.key)
        piece.key = transposed(after.key, -head.semitones);
    if (before.instrument != after.instrument)
        head.instrument = after.instrument;
    const ReadingHead& edited = after.asPlayed().head;
    head.name = edited.name;
    head.purpose = edited.purpose;
    head.fretting = edited.fretting;
    head.wish = edited.wish;
    head.tool = edited.tool;
    head.plucking_school = edited.plucking_school;
    head.motion = edited.motion;
    head.tempi = edited.tempi;
    head.claim = edited.claim;
    head.origins = edited.origins;
}

bool soundsElsewhen(const Note& a, const Note& b) {
    return a.time.value != b.time.value;
}

} // namespace

KeySignature transposed(KeySignature key, int semitones) {
    constexpr int kFifth = 7;
    const int steps = ((semitones % kOctave) + kOctave) % kOctave;
    if (steps == 0)
        return key;
    int fifths = (key.fifths + kFifth * steps) % kOctave;
    if (fifths > kOctave / 2)
        fifths -= kOctave;
    if (fifths < -kOctave / 2)
        fifths += kOctave;
    return {fifths};
}

bool sameNotes(const Reading& reading) {
    return !reading.head.instrument && reading.head.semitones == 0 && reading.head.added.empty() &&
           std::ranges::all_of(reading.plans,
                               [](const NotePlan& plan) { return plan.departure.none(); });
}

Piece inReading(const Piece& piece, std::size_t reading) {
    Piece view = bareReading(piece, reading);
    if (reading != 0)
        view.asPlayed().head.statement = exactnessLine(piece, reading);
    return view;
}

Piece bareReading(const Piece& piece, std::size_t reading) {
    Piece view;
    setFrame(frameOf(piece), view);
    view.log = piece.log;
    const Reading& from = piece.readings[reading];
    const ReadingHead& head = from.head;
    view.readings = {Reading{head, {}}};
    ReadingHead& own = view.asPlayed().head;
    own.instrument.reset();
    own.semitones = 0;
    own.added.clear();
    const bool other_neck = head.instrument && *head.instrument != piece.instrument;
    if (other_neck) {
        view.instrument = *head.instrument;
        view.string_traits.clear();
        view.misses.clear();
    }
    if (head.semitones != 0) {
        view.misses.clear();
        view.key = transposed(piece.key, head.semitones);
        if (head.semitones % kOctave != 0)
            view.chord_names.clear();
    }
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const Departure& departs = from.plans[i].departure;
        if (departs.left_out)
            continue;
        view.notes.push_back(piece.notes[i]);
        raise(view.notes.back(), head.semitones + departs.semitones);
        if (other_neck)
            view.notes.back().forgetString();
        if (departs.techniques)
            view.notes.back().techniques = *departs.techniques;
        view.asPlayed().plans.push_back(from.plans[i]);
        view.asPlayed().plans.back().departure = {};
    }
    merge(head.added, view);
    return view;
}

void keepPlans(const Piece& view, Piece& piece, std::size_t reading) {
    Reading& into = piece.readings[reading];
    const auto at = indexOfNotes(view);
    const auto keep = [&](NotePlan& plan) {
        if (const auto found = at.find(plan.note); found != at.end())
            keepPlan(view.asPlayed().plans[found->second], plan);
    };
    for (NotePlan& plan : into.plans)
        keep(plan);
    for (AddedNote& added : into.head.added)
        keep(added.plan);
    const ReadingHead& head = view.asPlayed().head;
    into.head.tool = head.tool;
    into.head.plucking_school = head.plucking_school;
    into.head.motion = head.motion;
}

Status foldReading(const Piece& before, const Piece& after, Piece& piece, std::size_t reading) {
    const auto was = indexOfNotes(before);
    const auto is = indexOfNotes(after);
    for (const auto& [id, i] : was)
        if (const auto now = is.find(id); now != is.end() && piece.note(id) &&
                                          soundsElsewhen(before.notes[i], after.notes[now->second]))
            return badCall("when a note sounds is what was played: change it in \"" +
                           piece.asPlayed().head.name + "\"");
    if (before.chord_names != after.chord_names &&
        piece.readings[reading].head.semitones % kOctave != 0)
        return badCall("this reading stands in another key: name chords in \"" +
                       piece.asPlayed().head.name + "\"");
    foldFrame(before, after, piece, reading);
    Reading& into = piece.readings[reading];
    std::erase_if(into.head.added, [&](const AddedNote& one) { return !is.contains(one.note.id); });
    for (AddedNote& one : into.head.added) {
        const std::size_t now = is.at(one.note.id);
        one.note = after.notes[now];
        one.plan = after.asPlayed().plans[now];
    }
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        NotePlan& plan = into.plans[i];
        const auto old = was.find(piece.notes[i].id);
        if (old == was.end())
            continue;
        const auto now = is.find(piece.notes[i].id);
        if (now == is.end()) {
            plan.departure = {DepartureWhy::Person, true, 0, {}};
            continue;
        }
        const Note& edited = after.notes[now->second];
        keepRemarks(edited, piece.notes[i]);
        keepPlan(after.asPlayed().plans[now->second], plan);
        if (const int moved = edited.midi() - before.notes[old->second].midi(); moved != 0) {
            plan.departure.semitones += moved;
            plan.departure.why = DepartureWhy::Person;
        }
        if (edited.techniques != before.notes[old->second].techniques) {
            plan.departure.techniques = edited.techniques;
            plan.departure.why = DepartureWhy::Person;
        }
    }
    for (const auto& [id, i] : is)
        if (!was.contains(id))
            into.head.added.push_back({after.notes[i], after.asPlayed().plans[i]});
    std::ranges::sort(into.head.added, earlier, &AddedNote::note);
    for (std::size_t e = before.log.size(); e < after.log.size(); ++e) {
        piece.log.push_back(after.log[e]);
        piece.log.back().reading = into.head.name;
    }
    return {};
}

} // namespace wirenote
