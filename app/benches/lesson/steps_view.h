#pragma once

#include "app/card.h"

#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>

namespace wirenote::app {

class LessonBook;
class LessonCommands;

// The steps in the order of teaching, and what is said at the chosen one. A text that a person
// changed says so, and where it contradicts the reading or may be misunderstood.
class StepsView : public QWidget {
    Q_OBJECT
  public:
    StepsView(LessonBook& book, LessonCommands& commands, QWidget* parent = nullptr);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    void refresh();
    void showStep();
    void keepText();
    void showPicture();
    void fitPicture();
    QString remarks() const;
    QString stumbles() const;

    LessonBook& m_book;
    LessonCommands& m_commands;
    QListWidget* m_steps;
    QLabel* m_title;
    QLabel* m_picture; // the tab of its phrase
    QPlainTextEdit* m_text;
    QLabel* m_remarks;
    QLabel* m_stumbles;
    QPushButton* m_as_made;
    QPixmap m_tab;   // as large as it is drawn
    QString m_shown; // the text as it was shown
};

} // namespace wirenote::app
