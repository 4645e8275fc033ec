#pragma once

#include "app/benches/neck/school_choice.h"
#include "app/card.h"
#include "session/hand_report.h"

#include <QTimer>

namespace wirenote::app {

class Derived;
class Document;
class TakeCommands;
class Selection;

// What the bar of the chosen note asks of the fretting hand, what must be silent there and who sees
// to it, and the school the hand follows.
class HandCard : public Card {
    Q_OBJECT
  public:
    HandCard(Document& document,
             Selection& selection,
             Derived& derived,
             TakeCommands& commands,
             QSettings& settings,
             QWidget* parent = nullptr);

  private:
    void refresh();
    void show(const HandReport& told);
    static QString loadText(const HandReport& told);
    static QString hardestText(const HandReport& told);
    static QString damperText(const MutedString& muted);
    static QString mutedText(const std::vector<MutedString>& muted);

    Document& m_document;
    Selection& m_selection;
    Derived& m_derived;
    SchoolChoice* m_school;
    QLabel* m_load;
    QLabel* m_hardest;
    QLabel* m_muted;
    QLabel* m_caution;
    QTimer m_soon;
};

} // namespace wirenote::app
