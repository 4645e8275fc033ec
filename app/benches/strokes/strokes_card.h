#pragma once

#include "app/card.h"
#include "piece/note.h"

#include <QHash>
#include <QPushButton>

namespace wirenote::app {

class Document;
class EditCommands;
class Selection;

// The strokes with their keys, the chosen note's pressed, and what all strokes rest on.
class StrokesCard : public Card {
    Q_OBJECT
  public:
    StrokesCard(Document& document,
                Selection& selection,
                EditCommands& commands,
                QWidget* parent = nullptr);

  private:
    void refresh();
    QString basisOfStrokes() const;

    Document& m_document;
    Selection& m_selection;
    QLabel* m_basis;
    QHash<int, QPushButton*> m_buttons; // by stroke
};

} // namespace wirenote::app
