#include "piece/edits.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kSameChord_s = 0.05; // from one name's moment to another's

} // namespace

Status PieceEditor::setGrip(const std::vector<NoteId>& stroke, const Grip& grip) {
    if (static_cast<int>(grip.frets.size()) != m_piece.instrument.stringCount() ||
        grip.sounding() == 0)
        return badCall("this grip is of another instrument");
    std::vector<std::size_t> there;
    for (const NoteId id : stroke) {
        std::size_t i = 0;
        if (const Status found = located(id, i); !found)
            return found;
        there.push_back(i);
    }
    if (there.empty())
        return badCall("choose a chord first");
    std::vector<double> starts_s;
    std::vector<double> ends_s;
    std::vector<Stroke> hands;
    std::vector<NoteId> on(grip.frets.size(), 0); // which note sounds on each string
    std::vector<NoteId> over;
    for (const std::size_t i : there) {
        const Note& note = m_piece.notes[i];
        starts_s.push_back(note.onset_s());
        ends_s.push_back(note.offset_s());
        hands.push_back(plan(i).stroke.isSet() ? plan(i).stroke.value : Stroke::None);
        const int string = plan(i).position.value.string;
        const bool wanted = plan(i).placed() && grip.fretOn(string) >= 0 && note.pitched();
        NoteId& holder = on[static_cast<std::size_t>(std::max(1, string) - 1)];
        if (wanted && holder == 0)
            holder = note.id;
        else
            over.push_back(note.id);
    }
    std::ranges::sort(ends_s);
    const TimeRange time{*std::ranges::min_element(starts_s), ends_s[ends_s.size() / 2]};
    for (const NoteId id : over)
        if (const Status gone = remove(id); !gone)
            return gone;
    for (std::size_t s = 0; s < on.size(); ++s) {
        const Position place{static_cast<int>(s) + 1, grip.frets[s]};
        if (place.fret < 0)
            continue;
        Status done;
        if (on[s] == 0) {
            const auto added = add(time, m_piece.instrument.midiAt(place), place);
            done = added ? Status{} : Status{added.error()};
        } else if (plan(*m_piece.indexOf(on[s])).position.value.fret != place.fret) {
            done = setFret(on[s], place.fret);
        } else {
            done = moveToString(on[s], place.string);
        }
        if (!done)
            return done;
    }
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
