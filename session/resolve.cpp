#include "session/resolve.h"

#include "fretting/let_go.h"
#include "fretting/likeness.h"
#include "fretting/placing.h"
#include "piece/in_reading.h"
#include "plucking/ghost_strings.h"
#include "plucking/strokes.h"

#include <algorithm>

namespace wirenote {
namespace {

constexpr std::size_t kMostOfAStroke =
    12; // notes that one stroke may begin; strings, and some more

void keep(Stroking stroking, std::size_t from, Reading& reading) {
    for (std::size_t i = 0; i < stroking.strokes.size(); ++i)
        reading.plans[from + i].stroke = std::move(stroking.strokes[i]);
    reading.head.tool = std::move(stroking.tool);
    reading.head.plucking_school = std::move(stroking.school);
    reading.head.motion = stroking.motion;
}

// Their strokes say over which strings they go.
void placeGhosts(Piece& piece, std::size_t reading, IndexSpan part) {
    for (const auto& [note, place] :
         ghostPlaces(piece.instrument.stringCount(), piece.rows(reading), part)) {
        Decision<Position>& position = piece.readings[reading].plans[note].position;
        position.value = place;
        position.runners_up.clear();
    }
}

} // namespace

namespace {

// Does something to a reading that is not simply the notes as they were heard: on a view of it.
template <class Solve> void inView(Piece& piece, std::size_t reading, const Solve& solve) {
    Piece view = bareReading(piece, reading);
    solve(view);
    keepPlans(view, piece, reading);
}

bool needsView(const Piece& piece, std::size_t reading) {
    return reading != 0 && !sameNotes(piece.readings[reading]);
}

} // namespace

void placeAll(Piece& piece, std::size_t reading) {
    if (needsView(piece, reading)) {
        inView(piece, reading, [](Piece& view) { placeAll(view); });
        return;
    }
    Placing placing = place(
        piece.instrument, piece.rows(reading), piece.string_traits, piece.readings[reading].head);
    piece.readings[reading].plans = std::move(placing.plans);
    if (reading == 0) // what was played tells how the strings sound
        piece.string_traits = std::move(placing.traits);
}

void strokeAll(Piece& piece, std::size_t reading) {
    if (needsView(piece, reading)) {
        inView(piece, reading, [](Piece& view) { strokeAll(view); });
        return;
    }
    Reading& into = piece.readings[reading];
    keep(strokes(piece.instrument, piece.timeline, piece.rows(reading), into.head), 0, into);
    placeGhosts(piece, reading, {0, piece.notes.size()});
}

void placeAndStroke(Piece& piece, std::optional<PluckingTool> plucking) {
    for (std::size_t r = 0; r < piece.readings.size(); ++r) {
        placeAll(piece, r);
        if (plucking)
            piece.readings[r].head.tool.set(*plucking);
        strokeAll(piece, r);
    }
}

void resolveAround(Piece& piece, double time_s) {
    const IndexSpan part = neighbourhood(piece.notes, time_s);
    if (part.first >= part.end)
        return;
    for (std::size_t r = 0; r < piece.readings.size(); ++r) {
        if (needsView(piece, r)) {
            inView(piece, r, [time_s](Piece& view) { resolveAround(view, time_s); });
            continue;
        }
        Reading& into = piece.readings[r];
        auto plans =
            placePart(piece.instrument, piece.rows(r), piece.string_traits, into.head, part);
        std::ranges::move(plans, into.plans.begin() + static_cast<std::ptrdiff_t>(part.first));
        keep(strokesOfPart(piece.instrument, piece.timeline, piece.rows(r), into.head, part),
             part.first,
             into);
        placeGhosts(piece, r, part);
    }
}

std::vector<std::pair<NoteId, Stroke>>
strokesWith(const Piece& piece, const std::vector<NoteId>& ids, PluckingTool tool) {
    std::vector<Note> notes;
    std::vector<NotePlan> plans;
    for (const NoteId id : ids)
        if (const Note* note = piece.note(id)) {
            notes.push_back(*note);
            plans.push_back(*piece.plan(id));
            plans.back().stroke = {};
        }
    ReadingHead head;
    head.tool.set(tool);
    const Stroking found = strokes(piece.instrument, piece.timeline, Rows(notes, plans), head);
    std::vector<std::pair<NoteId, Stroke>> said;
    for (std::size_t i = 0; i < notes.size(); ++i)
        said.emplace_back(notes[i].id, found.strokes[i].value);
    return said;
}

IndexSpan whatMattersTo(std::span<const Note> notes, IndexSpan part) {
    const double reach_s = LikenessModel{}.reach_s + kWholeStroke_s;
    const std::size_t spare = kStrokeContext + kMostOfAStroke;
    if (notes.empty() || part.first >= notes.size())
        return {part.first, part.end};
    const double from_s = notes[part.first].onset_s() - reach_s;
    const double to_s = notes[std::max(part.first + 1, part.end) - 1].onset_s() + reach_s;
    part.first -= std::min(part.first, spare);
    part.end = std::min(notes.size(), part.end + spare);
    while (part.first > 0 && notes[part.first - 1].onset_s() > from_s)
        --part.first;
    while (part.end < notes.size() && notes[part.end].onset_s() < to_s)
        ++part.end;
    return part;
}

bool wasAsked(const Reading& reading) {
    return reading.head.tool.value != PluckingTool::Unknown &&
           reading.head.plucking_school.value != PluckingSchool::Unknown && reading.head.motion;
}

Piece asMeant(const Piece& as_played) {
    Piece meant = as_played;
    meant.notes.clear();
    for (Reading& reading : meant.readings)
        reading.plans.clear();
    std::vector<double> righted_s;
    for (std::size_t i = 0; i < as_played.notes.size(); ++i) {
        Note note = as_played.notes[i];
        std::vector<NotePlan> plans;
        for (const Reading& reading : as_played.readings)
            plans.push_back(reading.plans[i]);
        if (note.slip) {
            righted_s.push_back(note.onset_s());
            if (note.slip->meant_midi == 0)
                continue;
            note.pitch.value = note.slip->meant_midi;
            note.curve.clear();
            note.forgetString(); // it is of what sounded
            note.slip.reset();
            for (NotePlan& plan : plans) {
                plan.position = {};
                plan.position.value = {0, 0};
                plan.finger = {};
            }
        }
        meant.notes.push_back(std::move(note));
        for (std::size_t r = 0; r < plans.size(); ++r)
            meant.readings[r].plans.push_back(std::move(plans[r]));
    }
    for (const double at_s : righted_s)
        resolveAround(meant, at_s);
    return meant;
}

void endOnStrings(Piece& piece) {
    const auto ends = endsOnStrings(piece.instrument, piece.rows());
    for (std::size_t i = 0; i < ends.size(); ++i)
        piece.notes[i].time.value.end_s = ends[i];
}

} // namespace wirenote
