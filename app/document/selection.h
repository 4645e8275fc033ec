#pragma once

#include "base/time_range.h"
#include "piece/note.h"

#include <QObject>
#include <vector>

namespace wirenote::app {

class Document;

// What is chosen, shared by every view: one note that the cards tell of, and with it perhaps a
// passage, notes that are decided together. Follows the document: a note that goes is no longer
// chosen.
class Selection : public QObject {
    Q_OBJECT
  public:
    explicit Selection(Document& document);
    NoteId note() const { return m_note; } // 0: none
    // The passage in order of time, the note among it; empty: nothing is chosen.
    const std::vector<NoteId>& all() const { return m_all; }
    bool isChosen(NoteId note) const;
    bool isOneStroke() const; // several notes that the hand strikes at once

    void choose(NoteId note);           // alone; 0: nothing
    void extendTo(NoteId note);         // and all in time from where the passage began
    void toggle(NoteId note);           // one more, or one less
    void choosePassage(TimeRange span); // all that begin in it
    void chooseStroke(NoteId note);     // all that the hand strikes with it: its chord
    void chooseAll(NoteId note,
                   std::vector<NoteId> all);   // these, in order of time; `note` among them
    void chooseAlike(NoteId note);             // all that sound the same pitch on the same place
    void step(int notes, bool extend = false); // in time; from nothing, the first or last

    // What a decision would change, before it does; gone with the next choice or change.
    const std::vector<NoteId>& marked() const { return m_marked; }
    void mark(std::vector<NoteId> notes);

  signals:
    void changed();

  private:
    void set(NoteId note, std::vector<NoteId> all);
    void prune();

    Document& m_document;
    NoteId m_note = 0;
    NoteId m_anchor = 0; // where a passage began
    std::vector<NoteId> m_all;
    std::vector<NoteId> m_marked;
};

} // namespace wirenote::app
