#include "app/commands/stroke_commands.h"

#include "app/document/document.h"
#include "app/document/selection.h"
#include "piece/one_stroke.h"

#include <algorithm>

namespace wirenote::app {

StrokeCommands::StrokeCommands(Document& document, Selection& selection)
    : m_document(document), m_selection(selection) {}

void StrokeCommands::setStrokes(const std::vector<std::pair<NoteId, Stroke>>& strokes) {
    if (strokes.empty())
        return;
    std::vector<NoteId> notes;
    for (const auto& [note, stroke] : strokes)
        notes.push_back(note);
    const Note* first = m_document.piece().note(notes.front());
    if (!first)
        return;
    m_selection.chooseAll(notes.front(), notes);
    m_document.edit(tr("set strokes"), first->onset_s(), [&strokes](PieceEditor& editor) -> Status {
        for (const auto& [note, stroke] : strokes)
            if (const Status done = editor.setStroke(note, stroke); !done)
                return done;
        return {};
    });
}

void StrokeCommands::paintFrom(NoteId from, double until_s) {
    const Piece& piece = m_document.piece();
    const Note* note = piece.note(from);
    if (!note || piece.plan(from)->stroke.value == Stroke::Unknown)
        return;
    const Stroke stroke = piece.plan(from)->stroke.value;
    constexpr double kMark_s = 0.02; // a mark is let go of beside its moment
    const double first_s = std::min(note->onset_s(), until_s) - kMark_s;
    const double last_s = std::max(note->onset_s(), until_s) + kMark_s;
    std::vector<std::pair<NoteId, Stroke>> strokes;
    for (const IndexSpan together : strokeSpans(piece.notes)) { // all strings of a stroke, or none
        const double at_s = piece.notes[together.first].onset_s();
        for (std::size_t n = together.first; at_s >= first_s && at_s <= last_s && n < together.end;
             ++n)
            if (!piece.notes[n].slurred())
                strokes.emplace_back(piece.notes[n].id, stroke);
    }
    setStrokes(strokes);
}

void StrokeCommands::markAccents(const std::vector<NoteId>& notes) {
    const Note* first = notes.empty() ? nullptr : m_document.piece().note(notes.front());
    if (!first)
        return;
    m_selection.chooseAll(notes.front(), notes);
    m_document.edit(tr("mark accents"), first->onset_s(), [&](PieceEditor& editor) -> Status {
        for (const NoteId id : notes)
            if (const Note* note = m_document.piece().note(id);
                note && !note->has(Technique::Accent))
                if (const Status done = editor.toggleTechnique(id, Technique::Accent); !done)
                    return done;
        return {};
    });
}

} // namespace wirenote::app
