#pragma once

#include "app/document/document.h"
#include "session/questions.h"

#include <QObject>
#include <optional>

namespace wirenote::app {

class Derived;
class Selection;
class TakeCommands;
class Transport;
struct Audition;

// Another instrument or tuning than the notes were heard with: what it made untrue.
struct OtherInstrument {
    Instrument heard_with;
    int moved = 0;    // notes that lie elsewhere now
    int homeless = 0; // notes that lie nowhere now
};

// The questions about the whole piece, one of them before the person at a time: which choice is
// looked at, what it sounds like, and what follows from the answer.
class Questions : public QObject {
    Q_OBJECT
  public:
    Questions(Document& document,
              Derived& derived,
              Selection& selection,
              Transport& transport,
              TakeCommands& takes);

    bool isOpen() const { return m_asking || m_offering; }
    const Question* current() const;                 // null: none is open
    const OtherInstrument* hearAgainOffered() const; // null: nothing to hear again is offered now
    int chosen() const { return m_chosen; }          // of the current question's choices

    // The next question; false when there is none that was not put off.
    bool openNext();
    void openFirst();        // of those that were put off, too
    void choose(int choice); // from 0; and hears it
    void hear();             // the chosen one
    void accept();           // it is the answer; or: hear the take again
    void leave();

  signals:
    void changed();
    void said(const QString& sentence);
    void answered(); // the last one: on to the notes

  private:
    void open(QuestionKind kind);
    void follow();
    void noteInstrument(const PieceDelta& delta, bool forwards);
    void answer(const Question& question, const Choice& choice);
    Audition auditionOf(const Question& question, const Choice& choice) const;

    Document& m_document;
    Derived& m_derived;
    Selection& m_selection;
    Transport& m_transport;
    TakeCommands& m_takes;
    std::optional<QuestionKind> m_asking;
    bool m_offering = false; // to hear the take again
    int m_chosen = 0;
    int m_put_off = -1;  // kinds up to this one
    bool m_show = false; // the first question, as soon as it is known
    bool m_answering = false;
    std::optional<OtherInstrument> m_other;
};

} // namespace wirenote::app
