#include "app/commands/dictation.h"

#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/playing/transport.h"
#include "app/text/wording.h"
#include "piece/one_stroke.h"

#include <algorithm>

namespace wirenote::app {

Dictation::Dictation(Document& document, Selection& selection, Transport& transport)
    : m_document(document), m_selection(selection), m_transport(transport) {}

std::vector<NoteId> Dictation::stepFrom(int strokes) const {
    const auto& notes = m_document.piece().notes;
    std::vector<std::vector<NoteId>> all;
    if (m_singly)
        for (const Note& note : notes)
            all.push_back({note.id});
    else
        for (const IndexSpan span : strokeSpans(notes)) {
            all.emplace_back();
            for (std::size_t i = span.first; i < span.end; ++i)
                all.back().push_back(notes[i].id);
        }
    if (all.empty())
        return {};
    const auto now = std::ranges::find_if(all, [this](const std::vector<NoteId>& ids) {
        return std::ranges::find(ids, m_selection.note()) != ids.end();
    });
    if (now == all.end())
        return all.front();
    const auto at = std::clamp<std::ptrdiff_t>(
        now - all.begin() + strokes, 0, static_cast<std::ptrdiff_t>(all.size()) - 1);
    return all[static_cast<std::size_t>(at)];
}

void Dictation::sound(int strokes) {
    constexpr double kSounds_s = 1.4;
    const std::vector<NoteId> ids = stepFrom(strokes);
    if (ids.empty()) {
        emit said(tr("There are no notes to dictate yet."));
        return;
    }
    m_selection.chooseAll(ids.front(), ids);
    const Piece& piece = m_document.piece();
    const double at_s = piece.note(ids.front())->onset_s();
    m_transport.audition({{at_s, at_s + kSounds_s}, {}, {}, ids});
    QStringList words;
    for (const NoteId id : ids)
        words << pitchText(piece, piece.note(id)->pitch.value) + QStringLiteral(", ") +
                     placeText(piece.plan(id)->position.value);
    emit said(words.join(QStringLiteral("  ·  ")));
}

} // namespace wirenote::app
