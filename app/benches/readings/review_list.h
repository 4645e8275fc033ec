#pragma once

#include "app/card.h"
#include "readings/decisions.h"

#include <QPushButton>
#include <memory>

namespace wirenote::app {

class Document;
class RowList;
class Selection;

// What new evidence decided otherwise – a take, a film, a better copy – before and after. All of it
// is taken until rows are put back: then they are as before, set by a person.
class ReviewList : public QWidget {
    Q_OBJECT
  public:
    ReviewList(Document& document, Selection& selection, QWidget* parent = nullptr);
    int count() const { return static_cast<int>(m_changes.size()); }

  signals:
    void arrived(int changes); // decisions that are others now

  private:
    void review(const QString& label, const std::shared_ptr<const Piece>& before);
    void prune(); // what was undone, or decided anew, is no change of that evidence any more
    void show();
    void putBack();

    Document& m_document;
    Selection& m_selection;
    QLabel* m_of; // which evidence
    QPushButton* m_back;
    QPushButton* m_done;
    RowList* m_list;
    std::shared_ptr<const Piece> m_before;
    std::vector<DecisionChange> m_changes;
};

} // namespace wirenote::app
