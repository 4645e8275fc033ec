#include "app/benches/notes/what_if.h"

#include "app/document/derived.h"
#include "app/document/document.h"

namespace wirenote::app {

WhatIf::WhatIf(Document& document, Derived& derived, QObject* parent)
    : QObject(parent), m_document(document), m_derived(derived) {
    connect(&document, &Document::opened, this, &WhatIf::forget);
    connect(&document, &Document::changed, this, &WhatIf::forget);
}

void WhatIf::forget() {
    m_known.clear();
}

std::optional<int> WhatIf::following(const Note& note, int string) {
    const Key key{note.id, string};
    if (const auto known = m_known.constFind(key); known != m_known.constEnd())
        return *known;
    m_known.insert(key, std::nullopt);
    m_derived.ask(
        [id = note.id, string, at_s = note.onset_s()](const Piece& piece) {
            const auto tried =
                tryEdit(piece, at_s, [&](PieceEditor& e) { return e.moveToString(id, string); });
            return tried ? std::optional(static_cast<int>(tried->followed.size())) : std::nullopt;
        },
        [this, key, revision = m_document.revision()](std::optional<int> follow) {
            if (revision != m_document.revision())
                return;
            m_known.insert(key, follow);
            emit changed();
        });
    return {};
}

} // namespace wirenote::app
