#pragma once

#include "app/card.h"
#include "session/pluck_report.h"

#include <QComboBox>
#include <QHash>
#include <QPushButton>
#include <QTimer>

namespace wirenote::app {

class Derived;
class Document;
class EditCommands;
class Selection;
class TakeCommands;

// The strokes with their keys, the chosen note's pressed, what they rest on, the school, and what
// the bar asks of the plucking hand.
class StrokesCard : public Card {
    Q_OBJECT
  public:
    StrokesCard(Document& document,
                Selection& selection,
                Derived& derived,
                EditCommands& commands,
                TakeCommands& takes,
                QWidget* parent = nullptr);
    QSize sizeHint() const override;

  private:
    QLayout* buildTitle(TakeCommands& takes);
    QLayout* buildButtons(EditCommands& commands);
    QLayout* buildJoin(EditCommands& commands);
    void refresh();
    void showSchool();
    void show(const PluckReport& told);
    QString basisOfStrokes() const;
    QString whyText() const;

    Document& m_document;
    Selection& m_selection;
    Derived& m_derived;
    QComboBox* m_school;
    QLabel* m_why;
    QLabel* m_hand;
    QLabel* m_join;
    QPushButton* m_begin_down;
    QLabel* m_basis;
    QLabel* m_caution;
    NoteId m_next_note = 0;             // the first of the next bar
    QHash<int, QPushButton*> m_buttons; // by stroke
    QTimer m_soon;
};

} // namespace wirenote::app
