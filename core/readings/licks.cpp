#include "readings/licks.h"

#include "music/scales.h"
#include "piece/timeline_map.h"
#include "score/quantise.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>

namespace wirenote {
namespace {

constexpr int kOctave = 12;
constexpr int kReach = 5; // frets between fingers that are down together, low on the neck

int classOf(int semitones) {
    return ((semitones % kOctave) + kOctave) % kOctave;
}

// Notes of a piece as a lick has them: by start, then by pitch.
struct Written {
    Rational start;
    Rational length;
    std::size_t index = 0;
};

std::vector<Written> writtenNotes(const Piece& view) {
    std::vector<Written> notes;
    for (const ScoreNote& note : quantise(view).notes)
        if (view.notes[note.index].pitched())
            notes.push_back({note.start, note.length, note.index});
    std::ranges::sort(notes, [&](const Written& a, const Written& b) {
        return a.start != b.start ? a.start < b.start
                                  : view.notes[a.index].midi() < view.notes[b.index].midi();
    });
    return notes;
}

// Whether the lick begins with note `from`, and how much higher it is.
std::optional<LickFound> playedFrom(const Piece& view,
                                    const std::vector<Written>& notes,
                                    std::size_t from,
                                    const Lick& lick) {
    if (from + lick.notes.size() > notes.size())
        return {};
    LickFound found;
    found.semitones = view.notes[notes[from].index].midi() - lick.notes.front().midi;
    found.same_places = true;
    std::optional<int> along; // frets
    for (std::size_t n = 0; n < lick.notes.size(); ++n) {
        const Written& here = notes[from + n];
        const LickNote& there = lick.notes[n];
        const Note& note = view.notes[here.index];
        if (here.start - notes[from].start != there.start - lick.notes.front().start ||
            note.midi() - there.midi != found.semitones)
            return {};
        const Position place = view.asPlayed().plans[here.index].position.value;
        const int moved = place.fret - there.place.fret;
        found.same_places =
            found.same_places && place.string == there.place.string && (!along || *along == moved);
        along = moved;
        found.notes.push_back(note.id);
    }
    return found;
}

// Third and seventh of the chord that a lick is turned to, above the root; no seventh: −1.
struct Quality {
    int third = 4;
    int seventh = -1;
};
Quality qualityOf(Turn to) {
    switch (to) {
    case Turn::Major:
        return {4, 11};
    case Turn::Dominant:
        return {4, 10};
    case Turn::Minor:
        break;
    }
    return {3, 10};
}

const char* kindOf(Turn to) {
    return to == Turn::Major ? "maj7" : to == Turn::Dominant ? "7" : "m7";
}

bool hasTone(const ChordTones& chord, int semitones) {
    return std::ranges::find(chord.classes, classOf(chord.root + semitones)) != chord.classes.end();
}

// Another pitch on its own string where there is room, else its place is open.
void repitch(LickNote& note, const Instrument& instrument, int midi) {
    note.midi = midi;
    if (note.place.string == 0)
        return;
    const int fret = instrument.fretFor(note.place.string, midi);
    if (fret < 0) {
        note.place = {0, 0};
        note.finger = Finger::Unknown;
    } else {
        if ((fret == 0) != (note.place.fret == 0))
            note.finger = fret == 0 ? Finger::Open : Finger::Unknown;
        note.place.fret = fret;
    }
}

} // namespace

Result<Lick> lickOf(const Piece& view, TimeRange span, std::string name, std::string chord) {
    Lick lick{std::move(name), view.title, 1, view.key, std::move(chord), view.instrument, {}, {}};
    constexpr double kPlayedEarly_s = 0.03;
    for (const Written& note : writtenNotes(view)) {
        const Note& heard = view.notes[note.index];
        if (!span.contains(heard.onset_s() + kPlayedEarly_s))
            continue;
        const NotePlan& plan = view.asPlayed().plans[note.index];
        lick.notes.push_back({note.start,
                              note.length,
                              heard.midi(),
                              plan.position.value,
                              plan.finger.value,
                              plan.stroke.value,
                              heard.techniques});
    }
    if (lick.notes.empty())
        return badCall("choose the notes of the lick first");
    if (lick.notes.size() > kMaxLickNotes)
        return badCall("a lick has at most " + std::to_string(kMaxLickNotes) + " notes");
    const TimelineMap map(view.timeline);
    lick.bar = map.grid().barAt(lick.notes.front().start).number;
    const Rational first = lick.notes.front().start;
    for (LickNote& note : lick.notes)
        note.start = note.start - first;
    return lick;
}

std::vector<LickFound> findLick(const Piece& view, const Lick& lick) {
    std::vector<LickFound> all;
    if (lick.notes.empty())
        return all;
    const std::vector<Written> notes = writtenNotes(view);
    for (std::size_t from = 0; from < notes.size();) {
        if (auto found = playedFrom(view, notes, from, lick)) {
            all.push_back(std::move(*found));
            from += lick.notes.size();
        } else {
            ++from;
        }
    }
    return all;
}

std::vector<NoteOverChord> overChord(const Lick& lick, const ChordTones& chord, int semitones) {
    std::vector<NoteOverChord> roles;
    for (const LickNote& note : lick.notes) {
        const int above = classOf(note.midi + semitones - chord.root);
        const bool own = hasTone(chord, above);
        ChordRole role = ChordRole::Outside;
        if (above == 0)
            role = ChordRole::Root;
        else if (own && (above == 3 || above == 4))
            role = ChordRole::Third;
        else if (own && (above == 6 || above == 7))
            role = ChordRole::Fifth;
        else if (own && (above == 10 || above == 11))
            role = ChordRole::Seventh;
        else if (own)
            role = ChordRole::OtherTone;
        else if (above == 2 || above == 5 || above == 9 || above == 10)
            role = ChordRole::Tension;
        roles.push_back({role, above});
    }
    return roles;
}

std::string degreeText(int semitones) {
    constexpr std::array<const char*, kOctave> kDegrees{
        "1", "♭9", "9", "♭3", "3", "11", "♯11", "5", "♭13", "13", "♭7", "7"};
    return kDegrees[static_cast<std::size_t>(classOf(semitones))];
}

std::optional<Lick> onOtherStrings(const Lick& lick, int strings) {
    Lick moved = lick;
    for (LickNote& note : moved.notes) {
        const int string = note.place.string + strings;
        if (note.place.string == 0 || !lick.instrument.hasString(string))
            return {};
        const int fret = lick.instrument.fretFor(string, note.midi);
        if (fret < 0)
            return {};
        note.place = {string, fret};
        note.finger = fret == 0 ? Finger::Open : Finger::Unknown;
    }
    for (std::size_t i = 0; i < moved.notes.size(); ++i)
        for (std::size_t k = i + 1; k < moved.notes.size(); ++k) {
            const LickNote& a = moved.notes[i];
            const LickNote& b = moved.notes[k];
            if (b.start < a.start + a.length && a.place.fret > 0 && b.place.fret > 0 &&
                std::abs(a.place.fret - b.place.fret) > kReach)
                return {};
        }
    return moved;
}

Result<Turned> turned(const Lick& lick, Turn to) {
    const auto chord = parseChord(lick.chord);
    if (!chord)
        return badCall(lick.chord.empty() ? "say first over which chord the lick is played"
                                          : "\"" + lick.chord + "\" is the name of no usual chord");
    const Quality wanted = qualityOf(to);
    Turned made{lick, {}};
    for (std::size_t i = 0; i < lick.notes.size(); ++i) {
        const int above = classOf(lick.notes[i].midi - chord->root);
        int by = 0;
        if ((above == 3 || above == 4) && above != wanted.third)
            by = wanted.third - above;
        else if ((above == 10 || above == 11) && above != wanted.seventh)
            by = wanted.seventh - above;
        if (by == 0)
            continue;
        repitch(made.lick.notes[i], lick.instrument, lick.notes[i].midi + by);
        made.changed.push_back(i);
    }
    made.lick.chord = pitchClassName(chord->root, lick.key.spelling()) + kindOf(to);
    return made;
}

Lick transposed(Lick lick, int semitones) {
    for (LickNote& note : lick.notes)
        repitch(note, lick.instrument, note.midi + semitones);
    if (const auto chord = parseChord(lick.chord))
        lick.chord =
            pitchClassName(classOf(chord->root + semitones), lick.key.spelling()) + chord->kind;
    return lick;
}

} // namespace wirenote
