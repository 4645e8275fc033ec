#include "app/document/selection.h"

#include "app/document/document.h"
#include "piece/one_stroke.h"

#include <algorithm>

namespace wirenote::app {

Selection::Selection(Document& document) : m_document(document) {
    connect(&document, &Document::opened, this, [this] { choose(0); });
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        mark({});
        if (what.notes)
            prune();
    });
}

bool Selection::isChosen(NoteId note) const {
    return std::ranges::find(m_all, note) != m_all.end();
}

bool Selection::isOneStroke() const {
    const Piece& piece = m_document.piece();
    if (m_all.size() < 2)
        return false;
    std::vector<double> onsets_s;
    for (const NoteId id : m_all)
        if (const Note* note = piece.note(id))
            onsets_s.push_back(note->onset_s());
    return strokeSpans(onsets_s).size() == 1;
}

void Selection::set(NoteId note, std::vector<NoteId> all) {
    if (note == m_note && all == m_all)
        return;
    m_note = note;
    m_all = std::move(all);
    m_marked.clear();
    emit changed();
}

void Selection::mark(std::vector<NoteId> notes) {
    if (notes == m_marked)
        return;
    m_marked = std::move(notes);
    emit changed();
}

void Selection::chooseAll(NoteId note, std::vector<NoteId> all) {
    m_anchor = note;
    set(note, std::move(all));
}

void Selection::chooseAlike(NoteId note) {
    const Piece& piece = m_document.piece();
    const auto index = piece.indexOf(note);
    if (!index)
        return;
    const auto& plans = piece.asPlayed().plans;
    std::vector<NoteId> all;
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        if (piece.notes[i].midi() == piece.notes[*index].midi() &&
            piece.notes[i].pitched() == piece.notes[*index].pitched() &&
            plans[i].position.value == plans[*index].position.value)
            all.push_back(piece.notes[i].id);
    chooseAll(note, std::move(all));
}

void Selection::prune() {
    std::vector<NoteId> left;
    for (const NoteId id : m_all)
        if (m_document.piece().note(id))
            left.push_back(id);
    const bool here = m_document.piece().note(m_note) != nullptr;
    set(here ? m_note : left.empty() ? 0 : left.front(), std::move(left));
}

void Selection::choose(NoteId note) {
    m_anchor = note;
    set(note, note != 0 ? std::vector<NoteId>{note} : std::vector<NoteId>{});
}

void Selection::extendTo(NoteId note) {
    const auto& notes = m_document.piece().notes;
    const auto to = m_document.piece().indexOf(note);
    const auto from = m_document.piece().indexOf(m_anchor);
    if (!to || !from) {
        choose(note);
        return;
    }
    std::vector<NoteId> all;
    for (std::size_t i = std::min(*from, *to); i <= std::max(*from, *to); ++i)
        all.push_back(notes[i].id);
    set(note, std::move(all));
}

void Selection::toggle(NoteId note) {
    std::vector<NoteId> all = m_all;
    if (std::erase(all, note) == 0) {
        all.push_back(note);
        std::ranges::sort(all, {}, [this](NoteId id) { return m_document.piece().indexOf(id); });
        set(note, std::move(all));
        return;
    }
    const NoteId left = all.empty() ? 0 : all.front();
    set(note == m_note ? left : m_note, std::move(all));
}

void Selection::choosePassage(TimeRange span) {
    std::vector<NoteId> all;
    for (const Note& note : m_document.piece().notes)
        if (note.onset_s() >= span.start_s && note.onset_s() < span.end_s)
            all.push_back(note.id);
    m_anchor = all.empty() ? 0 : all.front();
    set(m_anchor, std::move(all));
}

void Selection::chooseStroke(NoteId note) {
    const auto& notes = m_document.piece().notes;
    const auto index = m_document.piece().indexOf(note);
    for (const IndexSpan stroke : strokeSpans(notes))
        if (index && *index >= stroke.first && *index < stroke.end) {
            std::vector<NoteId> all;
            for (std::size_t i = stroke.first; i < stroke.end; ++i)
                all.push_back(notes[i].id);
            m_anchor = note;
            set(note, std::move(all));
        }
}

void Selection::step(int notes, bool extend) {
    const auto& all = m_document.piece().notes;
    if (all.empty())
        return;
    const auto count = static_cast<int>(all.size());
    const auto index = m_document.piece().indexOf(m_note);
    const int target = index ? static_cast<int>(*index) + notes : (notes > 0 ? 0 : count - 1);
    const NoteId to = all[static_cast<std::size_t>(std::clamp(target, 0, count - 1))].id;
    extend ? extendTo(to) : choose(to);
}

} // namespace wirenote::app
