#pragma once

#include "app/benches/readings/when_seen.h"
#include "app/card.h"
#include "piece/note.h"

#include <QLineEdit>
#include <QPushButton>

namespace wirenote::app {

class Document;
class RowList;
class Selection;

// The decision log: who decided what, when, from what to what, why, and on which evidence. Searched
// by any word; a row leads to its note, and a chosen note can be asked for its own history.
class DecisionsList : public QWidget {
    Q_OBJECT
  public:
    DecisionsList(Document& document, Selection& selection, QWidget* parent = nullptr);
    void showHistoryOf(NoteId note); // 0: of everything

  private:
    void rebuild();

    Document& m_document;
    Selection& m_selection;
    QLineEdit* m_search;
    QLineEdit* m_who;
    QPushButton* m_own; // of the chosen note only
    RowList* m_list;
    NoteId m_of = 0;
    WhenSeen m_soon;
};

} // namespace wirenote::app
