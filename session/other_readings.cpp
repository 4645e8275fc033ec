#include "session/other_readings.h"

#include "fretting/wishes.h"
#include "piece/edits.h"
#include "piece/in_reading.h"
#include "piece/timeline_map.h"
#include "readings/edition.h"
#include "readings/thinning.h"
#include "session/files.h"
#include "session/resolve.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <unordered_map>

namespace wirenote {
namespace {

constexpr int kOctave = 12;

void open(NotePlan& plan) {
    plan.position = {};
    plan.position.value = {0, 0};
    plan.finger = {};
    plan.stroke = {};
    plan.hand_fret = 0;
}

void openAll(Reading& reading) {
    for (NotePlan& plan : reading.plans)
        open(plan);
    for (AddedNote& one : reading.head.added)
        open(one.plan);
}

// A departure on top of those that are there.
void departOnTop(const Departure& more, Departure& departs) {
    if (more.none())
        return;
    departs.why = more.why;
    departs.left_out |= more.left_out;
    departs.semitones += more.semitones;
    if (more.techniques)
        departs.techniques = more.techniques;
}

// Puts departures of the notes of a view into its reading; an added note is changed itself.
void depart(const Piece& view,
            const std::vector<Departure>& departures,
            Piece& piece,
            std::size_t reading) {
    std::unordered_map<NoteId, const Departure*> of;
    for (std::size_t i = 0; i < departures.size(); ++i)
        of.emplace(view.notes[i].id, &departures[i]);
    Reading& into = piece.readings[reading];
    for (NotePlan& plan : into.plans)
        if (const auto at = of.find(plan.note); at != of.end())
            departOnTop(*at->second, plan.departure);
    std::erase_if(into.head.added, [&](AddedNote& one) {
        const auto at = of.find(one.note.id);
        if (at == of.end())
            return false;
        one.note.pitch.value += at->second->semitones;
        if (at->second->techniques)
            one.note.techniques = *at->second->techniques;
        return at->second->left_out;
    });
}

// What a neck has, capo and all.
struct Range {
    int lowest = 127;
    int highest = 0;
};

Range rangeOf(const Instrument& instrument) {
    Range range;
    for (int string = 1; string <= instrument.stringCount(); ++string) {
        range.lowest = std::min(range.lowest, instrument.midiAt({string, 0}));
        range.highest =
            std::max(range.highest, instrument.midiAt({string, instrument.highestFret()}));
    }
    return range;
}

// By how many semitones, in whole octaves, a pitch lies outside the range; 0 where no octave of it
// lies in it.
int intoRange(int midi, const Range& range) {
    int moved = 0;
    while (midi + moved < range.lowest)
        moved += kOctave;
    while (midi + moved > range.highest)
        moved -= kOctave;
    return midi + moved >= range.lowest ? moved : 0;
}

void moveOntoNeck(Piece& piece, MadeReading& made) {
    const Piece view = bareReading(piece, made.index);
    const Range range = rangeOf(view.instrument);
    std::vector<Departure> departures(view.notes.size());
    for (std::size_t i = 0; i < view.notes.size(); ++i)
        if (const Note& note = view.notes[i]; note.pitched())
            if (const int moved = intoRange(note.midi(), range); moved != 0) {
                departures[i] = {DepartureWhy::OffNeck, false, moved, {}};
                made.moved.push_back({note.id, moved});
            }
    depart(view, departures, piece, made.index);
}

void leaveOutSlurs(Piece& piece, std::size_t reading) {
    const Piece view = bareReading(piece, reading);
    std::vector<Departure> departures(view.notes.size());
    for (std::size_t i = 0; i < view.notes.size(); ++i)
        if (view.notes[i].slurred()) {
            std::vector<Technique> struck = view.notes[i].techniques;
            std::erase_if(struck, [](Technique t) {
                return t == Technique::HammerOn || t == Technique::PullOff || t == Technique::Slide;
            });
            departures[i] = {DepartureWhy::Person, false, 0, std::move(struck)};
        }
    depart(view, departures, piece, reading);
}

void thin(Piece& piece, std::size_t reading, const ReadingWish& wish) {
    const Piece view = bareReading(piece, reading);
    if (wish.kind == WishKind::Easier)
        depart(view, thinned(view, static_cast<int>(wish.value)), piece, reading);
    else if (wish.kind == WishKind::Tempo)
        depart(view, withoutWhatMayGo(view, piece.timeline.tempo_bpm * wish.value), piece, reading);
}

std::vector<NoteId> unmetIn(const Piece& piece, std::size_t reading, const ReadingWish& wish) {
    const Piece view = bareReading(piece, reading);
    return unmetWishes(view.rows(), wish);
}

std::vector<NoteId> solve(Piece& piece, std::size_t reading, const ReadingWish& wish) {
    piece.readings[reading].head.wish = wish;
    openAll(piece.readings[reading]);
    placeAll(piece, reading);
    return unmetIn(piece, reading, wish);
}

// The position in which the fewest notes are out of it, the lowest of these.
ReadingWish withBestPosition(Piece& piece, std::size_t reading, ReadingWish wish) {
    ReadingWish best = wish;
    const Piece view = bareReading(piece, reading);
    std::size_t fewest = view.notes.size() + 1;
    const int highest = std::min(12, std::max(1, view.instrument.highestFret() - 3));
    for (int fret = 1; fret <= highest; ++fret) {
        wish.value = fret;
        const std::size_t unmet = solve(piece, reading, wish).size();
        if (unmet < fewest) {
            fewest = unmet;
            best = wish;
        }
    }
    return best;
}

// What no hand takes with the others is not written for anybody to try; a note alone that this neck
// does not have stays, and is said.
void leaveOutOfHand(Piece& piece, std::size_t reading) {
    const Piece view = bareReading(piece, reading);
    std::vector<Departure> departures(view.notes.size());
    for (const IndexSpan stroke : strokeSpans(view.notes))
        for (std::size_t i = stroke.first; i < stroke.end; ++i)
            if (!view.asPlayed().plans[i].placed() && view.notes[i].pitched() &&
                stroke.size() > 1 && view.notes[i].need.kind != Necessity::MustLand)
                departures[i] = {DepartureWhy::OutOfHand, true, 0, {}};
    depart(view, departures, piece, reading);
}

// Whether it holds more than what it was made of.
bool wasWorkedOn(const Reading& reading) {
    const auto byPerson = [](const auto& decision) {
        return decision.isSet() && decision.setWhy() != SetWhy::Score;
    };
    return !reading.head.origins.empty() || !reading.head.purpose.empty() ||
           std::ranges::any_of(reading.plans, [&](const NotePlan& plan) {
               const Departure& departs = plan.departure;
               return byPerson(plan.position) || byPerson(plan.finger) || byPerson(plan.stroke) ||
                      (departs.why == DepartureWhy::Person &&
                       (departs.left_out || departs.semitones != 0));
           });
}

// An empty reading of that name, or the one of that name when nothing is lost with it; the name
// gets a number where something would be.
Result<std::size_t>
begin(Piece& piece, ReadingRecipe& recipe, const std::string& when, std::size_t from) {
    const std::string wanted = recipe.name;
    for (int number = 2;; ++number) {
        const auto known = std::ranges::find_if(piece.readings, [&](const Reading& reading) {
            return reading.head.name == recipe.name;
        });
        const auto index = static_cast<std::size_t>(known - piece.readings.begin());
        if (known == piece.readings.end()) {
            if (const Status added = PieceEditor(piece, when).addReading(recipe.name, ""); !added)
                return added.error();
            return index;
        }
        if (index != 0 && index != from && !wasWorkedOn(*known))
            return index;
        recipe.name = wanted + " (" + std::to_string(number) + ")";
    }
}

Result<Reading> beginning(Piece& piece, const ReadingRecipe& recipe, std::size_t from) {
    Reading reading = piece.readings[from];
    if (!recipe.score.empty()) {
        const auto score = readGiven(recipe.score);
        if (!score)
            return score.error();
        reading = readingOfScore(piece, *score, recipe.name, piece.next_id);
        reading.head.fretting = piece.readings[from].head.fretting;
    }
    ReadingHead& head = reading.head;
    if (recipe.score.empty()) {
        head.made_from = head.name;
        head.origins.clear();
    }
    head.name = recipe.name;
    head.purpose.clear();
    head.claim.reset();
    head.tempi = {};
    if (recipe.instrument)
        head.instrument = recipe.instrument;
    head.semitones += recipe.semitones;
    if (recipe.fretting)
        head.fretting = *recipe.fretting;
    if (recipe.instrument && recipe.instrument->isBass() != piece.instrument.isBass()) {
        head.tool = {};
        head.plucking_school = {};
        head.motion.reset();
    }
    if (recipe.plucking) {
        head.tool.set(toolOf(*recipe.plucking));
        head.plucking_school.set(*recipe.plucking);
        head.motion.reset();
    }
    for (AddedNote& one : head.added)
        if (recipe.score.empty())
            one.note.id = one.plan.note = piece.next_id++;
    return reading;
}

// Open strings of `from` that are stopped in the made reading.
void noteStopped(const Piece& piece, std::size_t from, MadeReading& made) {
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const NotePlan& was = piece.readings[from].plans[i];
        const NotePlan& is = piece.readings[made.index].plans[i];
        if (is.departure.left_out && !was.departure.left_out)
            made.left_out.push_back(piece.notes[i].id);
        else if (was.placed() && is.placed() && was.position.value.fret == 0 &&
                 is.position.value.fret > 0)
            made.stopped.push_back(piece.notes[i].id);
    }
}

// Whether anything but a score asks for places of its own.
bool asksTheHands(const ReadingRecipe& recipe) {
    return recipe.score.empty() || recipe.wish.kind != WishKind::None || recipe.instrument ||
           recipe.semitones != 0 || recipe.fretting;
}

} // namespace

Result<MadeReading> makeReading(Piece& original,
                                const ReadingRecipe& asked,
                                const std::string& when,
                                std::size_t from) {
    Piece piece = original; // nothing half made
    MadeReading made;
    ReadingRecipe recipe = asked;
    const auto index = begin(piece, recipe, when, from);
    if (!index)
        return index.error();
    made.index = *index;
    if (recipe.instrument)
        if (const Status usable = checkInstrument(*recipe.instrument); !usable)
            return usable.error();
    auto reading = beginning(piece, recipe, from);
    if (!reading)
        return reading.error();
    piece.readings[made.index] = std::move(*reading);
    thin(piece, made.index, recipe.wish);
    if (recipe.no_slurs)
        leaveOutSlurs(piece, made.index);
    moveOntoNeck(piece, made);
    if (asksTheHands(recipe)) {
        const ReadingWish wish =
            recipe.wish.kind == WishKind::OnePosition && recipe.wish.value == 0.0
                ? withBestPosition(piece, made.index, recipe.wish)
                : recipe.wish;
        made.unmet = solve(piece, made.index, wish);
        leaveOutOfHand(piece, made.index);
        made.unmet = unmetIn(piece, made.index, wish);
    } else {
        placeAll(piece, made.index);
    }
    strokeAll(piece, made.index);
    noteStopped(piece, from, made);
    if (const Status sound = checkPiece(piece); !sound)
        return badCall("this reading cannot be made: " + sound.error().message);
    original = std::move(piece);
    return made;
}

Piece asReading(const Piece& piece, std::size_t reading) {
    Piece view = inReading(piece, reading);
    if (reading != 0)
        endOnStrings(view);
    return view;
}

std::vector<std::size_t> readingsFor(const Piece& piece, double bpm) {
    std::vector<std::size_t> found;
    for (std::size_t r = 0; r < piece.readings.size(); ++r)
        if (const TempoRange& tempi = piece.readings[r].head.tempi;
            tempi != TempoRange{} && tempi.holds(bpm))
            found.push_back(r);
    return found;
}

std::string whereText(const Piece& piece, NoteId id) {
    const Note* note = piece.note(id);
    if (!note)
        return {};
    const auto at = TimelineMap(piece.timeline).barBeatAt(note->onset_s());
    std::array<char, 32> beat{};
    constexpr double kFinest = 12.0; // parts of a beat: what is played a little early or late
    const double part = std::round(at.beat * kFinest) / kFinest;
    std::snprintf(beat.data(), beat.size(), "%g", std::round(part * 100.0) / 100.0);
    return "bar " + std::to_string(at.bar) + ", beat " + beat.data();
}

} // namespace wirenote
