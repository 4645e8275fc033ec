#pragma once

#include "piece/note.h"
#include "session/hand_report.h"
#include "session/workspace.h"

#include <QHash>
#include <QObject>
#include <optional>

namespace wirenote::app {

class Derived;
class Document;

// What would follow if a note lay on another string or had another finger, and what would have to
// be otherwise for it: tried on the worker's copy of the piece, kept until the piece changes.
class WhatIf : public QObject {
    Q_OBJECT
  public:
    WhatIf(Document& document, Derived& derived, QObject* parent = nullptr);

    // The other notes that would move, and those that would get another finger where they are.
    struct Ripple {
        std::vector<NoteId> moved;
        std::vector<NoteId> refingered;
    };
    // Nothing while it is tried (signal changed follows), or when it cannot be.
    const Ripple* following(const Note& note, int string);
    const Ripple* following(const Note& note, Finger finger);
    // Nothing while it is looked for.
    const NoteHold* hold(const Note& note);

  signals:
    void changed();

  private:
    using Key = std::pair<NoteId, int>; // a string, or a finger below nothing
    void forget();
    template <class Edit> const Ripple* tried(Key key, double at_s, Edit edit);

    Document& m_document;
    Derived& m_derived;
    QHash<Key, std::optional<Ripple>> m_known; // without a value: asked already
    QHash<NoteId, std::optional<NoteHold>> m_holds;
};

} // namespace wirenote::app
