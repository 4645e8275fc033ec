#pragma once

#include "piece/note.h"

#include <QHash>
#include <QObject>
#include <optional>

namespace wirenote::app {

class Derived;
class Document;

// How many other notes would follow if a note lay on another string: tried on the worker's copy of
// the piece, kept until the piece changes.
class WhatIf : public QObject {
    Q_OBJECT
  public:
    WhatIf(Document& document, Derived& derived, QObject* parent = nullptr);

    // Nothing while it is tried (signal changed follows), or when it cannot be.
    std::optional<int> following(const Note& note, int string);

  signals:
    void changed();

  private:
    using Key = std::pair<NoteId, int>;
    void forget();

    Document& m_document;
    Derived& m_derived;
    QHash<Key, std::optional<int>> m_known; // without a value: asked already
};

} // namespace wirenote::app
