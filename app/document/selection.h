#pragma once

#include "piece/note.h"

#include <QObject>

namespace wirenote::app {

class Document;

// The chosen note, shared by every view. Follows the document: a note that goes is no longer
// chosen.
class Selection : public QObject {
    Q_OBJECT
  public:
    explicit Selection(Document& document);
    NoteId note() const { return m_note; }
    void choose(NoteId note);
    void step(int notes); // forwards or backwards in time; from nothing, the first or last

  signals:
    void changed();

  private:
    Document& m_document;
    NoteId m_note = 0;
};

} // namespace wirenote::app
