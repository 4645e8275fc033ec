#pragma once

#include "app/card.h"
#include "session/pluck_report.h"

#include <optional>

#include <QComboBox>
#include <QHash>
#include <QPushButton>
#include <QTimer>

namespace wirenote::app {

class Derived;
class Document;
class EditCommands;
class Selection;
class StrokeCommands;
class TakeCommands;
class Transport;

// The strokes with their keys, the chosen note's pressed, what they rest on, the school, and what
// the bar asks of the plucking hand.
class StrokesCard : public Card {
    Q_OBJECT
  public:
    StrokesCard(Document& document,
                Selection& selection,
                Derived& derived,
                Transport& transport,
                EditCommands& commands,
                StrokeCommands& strokes,
                TakeCommands& takes,
                QWidget* parent = nullptr);
    QSize sizeHint() const override;

  signals:
    void dynamicsWanted(const std::vector<SheetMark>& marks); // on the sheet

  private:
    QLayout* buildTitle(TakeCommands& takes);
    QLayout* buildButtons(EditCommands& commands);
    QLayout* buildSaid();
    QLayout* buildOffers();
    QPushButton* offer(const QString& text, const char* name, const QString& tip);
    void refresh();
    void showSchool();
    void show(const PluckReport& told);
    void showOffers();
    QString basisOfStrokes() const;
    QString whyText() const;

    Document& m_document;
    Selection& m_selection;
    Derived& m_derived;
    Transport& m_transport;
    StrokeCommands& m_strokes;
    QComboBox* m_school;
    QLabel* m_why;
    QLabel* m_bar_title;
    QLabel* m_hand; // of the bar
    QLabel* m_piece_title;
    QLabel* m_whole; // of the piece
    QPushButton* m_begin_down;
    QPushButton* m_other_way;
    QPushButton* m_accents;
    QPushButton* m_dynamics;
    QLabel* m_basis;
    QLabel* m_caution;
    PluckReport m_told;
    std::optional<TimeRange> m_loop;    // by which it was asked
    QHash<int, QPushButton*> m_buttons; // by stroke
    QTimer m_soon;
};

} // namespace wirenote::app
