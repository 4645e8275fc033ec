#include "app/commands/stroke_commands.h"

#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/text/wording.h"

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
    constexpr double kStroke_s = 0.08; // the other strings of the same stroke
    const TimeRange span{std::min(note->onset_s(), until_s) - kStroke_s,
                         std::max(note->onset_s(), until_s) + kStroke_s};
    std::vector<std::pair<NoteId, Stroke>> strokes;
    for (const Note& one : piece.notes)
        if (span.contains(one.onset_s()) && !one.slurred())
            strokes.emplace_back(one.id, stroke);
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
