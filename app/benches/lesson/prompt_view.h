#pragma once

#include <QLabel>
#include <QTextBrowser>
#include <QWidget>

namespace wirenote::app {

class LessonBook;
class LessonCommands;

// What to say, in large letters, while filming. Keys: space, right and page down go on, left and
// page up back, R marks to be filmed again, plus and minus change the size, Escape ends.
class PromptView : public QWidget {
    Q_OBJECT
  public:
    PromptView(LessonBook& book, LessonCommands& commands, QWidget* parent);

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void refresh();

    LessonBook& m_book;
    LessonCommands& m_commands;
    QLabel* m_title;
    QLabel* m_text;
    QLabel* m_next;
    double m_points = 26.0;
};

// The lesson as a learner will see it: its text and tabs, without the sounds.
class LessonPreview : public QTextBrowser {
    Q_OBJECT
  public:
    LessonPreview(LessonBook& book, QWidget* parent);

  private:
    void refresh();

    LessonBook& m_book;
};

} // namespace wirenote::app
