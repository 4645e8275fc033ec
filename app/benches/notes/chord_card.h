#pragma once

#include "app/card.h"
#include "app/commands/chord_commands.h"

#include <QCheckBox>
#include <QLineEdit>
#include <QPushButton>
#include <QTimer>

namespace wirenote::app {

class Derived;

// The chosen chord: its name, what the hand holds, and what is missing of it. Seen while a chord is
// chosen.
class ChordCard : public Card {
    Q_OBJECT
  public:
    ChordCard(Document& document,
              Selection& selection,
              Derived& derived,
              ChordCommands& commands,
              QWidget* parent = nullptr);
    void writeGrip(); // the keyboard goes to what is held

  private:
    void refresh();
    ChordCommands::Where where() const;
    QString helpText(const ChordCommands::Chord& chord) const;

    Document& m_document;
    ChordCommands& m_commands;
    QLineEdit* m_name;
    QLineEdit* m_grip;
    QLabel* m_help;
    QPushButton* m_fill;
    QCheckBox* m_everywhere;
    QTimer m_soon;
};

} // namespace wirenote::app
