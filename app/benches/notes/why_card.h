#pragma once

#include "app/benches/notes/partials_probe.h"
#include "app/benches/notes/what_if.h"
#include "app/card.h"
#include "piece/piece.h"

#include <QPushButton>
#include <QTimer>
#include <functional>
#include <vector>

namespace wirenote::app {

class Derived;
class Document;
class EditCommands;
class PulseCommands;
class Selection;

// Tells of the chosen note: what was heard, seen and reasoned, the runners-up, and what would
// change.
class WhyCard : public Card {
    Q_OBJECT
  public:
    WhyCard(Document& document,
            Selection& selection,
            EditCommands& commands,
            Derived& derived,
            PulseCommands& pulse,
            QWidget* parent = nullptr);
    void showPartials(bool shown); // of the chosen note, and of those chosen later
    bool partialsShown() const { return m_partials.wanted(); }

  private:
    void rebuild();
    void showNothing();
    void showHeading(const Note& note, const NotePlan& plan);
    void showEvidence(const Note& note, const NotePlan& plan);
    void showPlace(const Note& note, const NotePlan& plan);
    void showFinger(const Note& note, const NotePlan& plan);
    void showOtherPlayings(const Note& note);
    void showStiffness(const Note& note, const NotePlan& plan);
    void showPartialsOf(const Note& note, const NotePlan& plan);
    void showPlaces(const NotePlan& plan);
    void showOthers(const Note& note, const NotePlan& plan);
    void showSlip(const Note& note);
    void showBeat(const Note& note);
    void showButtons();
    void addReason(Basis basis, const QString& title, const QString& detail);
    // One of the runners-up, with what would change.
    void addOther(const QString& what,
                  const QString& key,
                  const QString& name,
                  const WhatIf::Ripple* ripple,
                  const std::function<void()>& decide);
    static void dress(QPushButton& b, bool primary);
    QPushButton* button(const QString& text, const QString& key, bool primary);

    Document& m_document;
    Selection& m_selection;
    EditCommands& m_commands;
    Derived& m_derived;
    PulseCommands& m_pulse;
    PartialsProbe m_partials;
    WhatIf m_what_if;
    QWidget* m_content = nullptr;
    QVBoxLayout* m_rows = nullptr;
    QTimer m_soon;           // rebuilding once for several changes in a row
    bool m_rippling = false; // what a runner-up would change is marked
    int m_followed = 0;
    std::vector<NoteId> m_shown; // the choice that the card was made for
    NoteId m_shown_note = 0;
};

} // namespace wirenote::app
