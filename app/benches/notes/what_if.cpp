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
    m_holds.clear();
}

template <class Edit> const WhatIf::Ripple* WhatIf::tried(Key key, double at_s, Edit edit) {
    if (const auto known = m_known.constFind(key); known != m_known.constEnd())
        return known->has_value() ? &**known : nullptr;
    m_known.insert(key, std::nullopt);
    m_derived.ask(
        [edit, at_s](const Piece& piece) -> std::optional<Ripple> {
            auto outcome = tryEdit(piece, at_s, edit);
            if (!outcome)
                return {};
            return Ripple{std::move(outcome->followed), std::move(outcome->refingered)};
        },
        [this, key, revision = m_document.revision()](std::optional<Ripple> ripple) {
            if (revision != m_document.revision())
                return;
            m_known.insert(key, std::move(ripple));
            emit changed();
        });
    return nullptr;
}

const WhatIf::Ripple* WhatIf::following(const Note& note, int string) {
    return tried({note.id, string}, note.onset_s(), [id = note.id, string](PieceEditor& e) {
        return e.moveToString(id, string);
    });
}

const WhatIf::Ripple* WhatIf::following(const Note& note, Finger finger) {
    return tried({note.id, -static_cast<int>(finger)},
                 note.onset_s(),
                 [id = note.id, finger](PieceEditor& e) { return e.setFinger(id, finger); });
}

const NoteHold* WhatIf::hold(const Note& note) {
    if (const auto known = m_holds.constFind(note.id); known != m_holds.constEnd())
        return known->has_value() ? &**known : nullptr;
    m_holds.insert(note.id, std::nullopt);
    m_derived.ask([id = note.id](const Piece& piece) { return noteHold(piece, id); },
                  [this, id = note.id, revision = m_document.revision()](NoteHold hold) {
                      if (revision != m_document.revision())
                          return;
                      m_holds.insert(id, std::move(hold));
                      emit changed();
                  });
    return nullptr;
}

} // namespace wirenote::app
