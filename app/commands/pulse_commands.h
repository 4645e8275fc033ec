#pragma once

#include "app/document/document.h"

#include <QHash>
#include <QTimer>
#include <vector>

namespace wirenote::app {

class Derived;
class Selection;
class Transport;

// What a person can do to the pulse and the form. Everything can be undone.
class PulseCommands : public QObject {
    Q_OBJECT
  public:
    PulseCommands(Document& document,
                  Selection& selection,
                  Transport& transport,
                  Derived& derived,
                  QObject* parent = nullptr);

    // A beat, now, in what is heard. Two seconds after the last of four or more, they are the
    // beats.
    void tap();
    std::size_t taps() const { return m_taps.size(); }
    void setTempo(double bpm);
    void setMetre(int bar, Metre metre);
    void twiceAsSlow();
    void twiceAsFast();
    void setPickup(int quavers); // before bar 1
    void setSwing(double ratio);
    void pinBeat(int beat, double time_s); // a beat or bar line was dragged
    void setDivision(int beat, int parts);
    void loopIsSection(); // with a name of its own to come
    void keepForm();      // the phrases found become the sections of the piece
    void renameSection(std::size_t section, const QString& label);
    void removeSections();
    void goToPart(int parts); // forwards or backwards
    void loopPart();
    // What was decided of the chosen notes, in all repeats of their phrase too. The first time it
    // only marks where; asked for again, it is done. What was sure otherwise stays.
    void sameInRepeats();
    void choosePhrase(); // the notes of the phrase that the chosen one is in, else of its bar
    // The notes that are the same in other occurrences of the phrase.
    std::vector<NoteId> repeatsOf(NoteId note) const;

  signals:
    void said(const QString& sentence);
    void tapped();

  private:
    struct Repeats {
        std::vector<std::pair<NoteId, std::vector<NoteId>>> of; // of each chosen note
        std::vector<NoteId> all;
        int sure = 0; // others that stay
    };
    Repeats repeatsOfChosen() const;
    void rememberPlaces(const PieceDelta& delta, bool forwards);
    void useTaps();
    void change(const QString& label,
                const std::string& log,
                const std::function<Status(Timeline&)>& change,
                const Settled& says,
                bool renumber = false);

    Document& m_document;
    Selection& m_selection;
    Transport& m_transport;
    Derived& m_derived;
    QHash<NoteId, Position> m_was;
    std::vector<double> m_taps;
    QTimer m_tapping;
};

} // namespace wirenote::app
