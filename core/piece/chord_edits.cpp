#include "piece/edits.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kSameChord_s = 0.05; // from one name's moment to another's

Status fits(const std::vector<NoteId>& stroke, const Grip& grip, const Instrument& instrument) {
    if (static_cast<int>(grip.frets.size()) != instrument.stringCount() || grip.sounding() == 0)
        return badCall("this grip is of another instrument");
    return stroke.empty() ? badCall("choose a chord first") : Status{};
}

} // namespace

Status PieceEditor::setGrip(const std::vector<NoteId>& stroke, const Grip& grip) {
    if (const Status usable = fits(stroke, grip, m_piece.instrument); !usable)
        return usable;
    std::vector<double> starts_s;
    std::vector<double> ends_s;
    std::vector<NoteId> on(grip.frets.size(), 0); // which note sounds on each string
    std::vector<NoteId> over;
    for (const NoteId id : stroke) {
        std::size_t i = 0;
        if (const Status found = located(id, i); !found)
            return found;
        const Note& note = m_piece.notes[i];
        starts_s.push_back(note.onset_s());
        ends_s.push_back(note.offset_s());
        const int string = plan(i).position.value.string;
        const bool wanted = plan(i).placed() && grip.fretOn(string) >= 0 && note.pitched();
        NoteId& holder = on[static_cast<std::size_t>(std::max(1, string) - 1)];
        (wanted && holder == 0 ? holder : over.emplace_back()) = note.id;
    }
    std::ranges::sort(ends_s);
    const TimeRange time{*std::ranges::min_element(starts_s), ends_s[ends_s.size() / 2]};
    for (const NoteId id : over)
        if (const Status gone = remove(id); !gone)
            return gone;
    // A string of the grip by the note that is on it, or by a new one.
    const auto hold = [&](Position place, NoteId note) -> Status {
        if (note != 0)
            return plan(*m_piece.indexOf(note)).position.value.fret != place.fret
                       ? setFret(note, place.fret)
                       : moveToString(note, place.string);
        const auto added = add(time, m_piece.instrument.midiAt(place), place);
        return added ? Status{} : Status{added.error()};
    };
    for (std::size_t s = 0; s < on.size(); ++s)
        if (grip.frets[s] >= 0)
            if (const Status held = hold({static_cast<int>(s) + 1, grip.frets[s]}, on[s]); !held)
                return held;
    return {};
}

Status PieceEditor::nameChord(double at_s, const std::string& name) {
    if (!std::isfinite(at_s) || at_s < 0.0)
        return badCall("a chord begins somewhere in the piece");
    std::erase_if(m_piece.chord_names, [at_s](const NamedChord& chord) {
        return std::abs(chord.at_s - at_s) <= kSameChord_s;
    });
    if (m_piece.chord_names.size() >= kMaxNamedChords)
        return badCall("a piece has no more than " + std::to_string(kMaxNamedChords) +
                       " named chords");
    if (!name.empty())
        m_piece.chord_names.push_back({at_s, name});
    std::ranges::sort(m_piece.chord_names, {}, &NamedChord::at_s);
    log(name.empty() ? "chord named as found" : "chord named " + name, 0);
    return {};
}

} // namespace wirenote
