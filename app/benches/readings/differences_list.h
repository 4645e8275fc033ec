#pragma once

#include "app/benches/readings/when_seen.h"
#include "app/card.h"
#include "readings/compare.h"

#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>

namespace wirenote::app {

class Derived;
class Document;
class ReadingCommands;
class RowList;
class Selection;

// What differs between the reading that is shown and another one or a score: what each way gains
// and loses, to be taken group by group.
class DifferencesList : public QWidget {
    Q_OBJECT
  public:
    DifferencesList(Document& document,
                    Derived& derived,
                    Selection& selection,
                    ReadingCommands& commands,
                    QWidget* parent = nullptr);
    void compareWithScore(const QString& file);

  protected:
    void showEvent(QShowEvent* event) override; // while it is seen, the strip shows the other too
    void hideEvent(QHideEvent* event) override;

  private:
    void askForScore();
    void offerOthers();
    void compare();
    void show(const ReadingComparison& comparison);
    void take();

    Document& m_document;
    Derived& m_derived;
    Selection& m_selection;
    ReadingCommands& m_commands;
    QComboBox* m_other;
    QLabel* m_throughout;
    QLineEdit* m_why;
    QPushButton* m_take;
    RowList* m_list;
    ReadingComparison m_found;
    std::shared_ptr<const Piece> m_overlaid; // the other reading as it is played
    std::shared_ptr<const Piece> m_score;    // compared with; null: a reading is
    QString m_score_name;
    WhenSeen m_soon;
};

} // namespace wirenote::app
