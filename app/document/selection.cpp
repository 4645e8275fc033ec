#include "app/document/selection.h"

#include "app/document/document.h"

#include <algorithm>

namespace wirenote::app {

Selection::Selection(Document& document) : m_document(document) {
    connect(&document, &Document::opened, this, [this] { choose(0); });
    connect(&document, &Document::changed, this, [this] {
        if (m_note != 0 && !m_document.piece().note(m_note))
            choose(0);
    });
}

void Selection::choose(NoteId note) {
    if (note == m_note)
        return;
    m_note = note;
    emit changed();
}

void Selection::step(int notes) {
    const auto& all = m_document.piece().notes;
    if (all.empty())
        return;
    const auto count = static_cast<int>(all.size());
    const auto index = m_document.piece().indexOf(m_note);
    const int target = index ? static_cast<int>(*index) + notes : (notes > 0 ? 0 : count - 1);
    choose(all[static_cast<std::size_t>(std::clamp(target, 0, count - 1))].id);
}

} // namespace wirenote::app
