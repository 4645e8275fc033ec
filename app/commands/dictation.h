#pragma once

#include "piece/note.h"

#include <QObject>
#include <vector>

namespace wirenote::app {

class Document;
class Selection;
class Transport;

// The tab dictated for checking on one's own instrument: stroke by stroke, each sounded by itself,
// the next when the player asks for it by a key or a pedal that is one.
class Dictation : public QObject {
    Q_OBJECT
  public:
    Dictation(Document& document, Selection& selection, Transport& transport);

    // The next stroke (1), the one before (−1) or the same again (0): chosen and sounded.
    void sound(int strokes);
    // Its notes one by one instead of together.
    void setSingly(bool singly) { m_singly = singly; }
    bool singly() const { return m_singly; }

  signals:
    void said(const QString& sentence);

  private:
    std::vector<NoteId> stepFrom(int strokes) const; // what is to sound

    Document& m_document;
    Selection& m_selection;
    Transport& m_transport;
    bool m_singly = false;
};

} // namespace wirenote::app
