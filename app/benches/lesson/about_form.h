#pragma once

#include "piece/lesson_plan.h"

#include <QFormLayout>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QWidget>
#include <utility>
#include <vector>

namespace wirenote::app {

class Document;
class LessonCommands;

// What a lesson says of itself: level, what it presupposes, background, credits, its place in a
// series; and the teacher's own words.
class AboutForm : public QWidget {
    Q_OBJECT
  public:
    AboutForm(Document& document, LessonCommands& commands, QWidget* parent = nullptr);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void addLine(QFormLayout& form,
                 const QString& label,
                 const char* name,
                 const QString& hint,
                 std::string LessonPlan::*of);
    void refresh();
    void keepGlossary();

    Document& m_document;
    LessonCommands& m_commands;
    std::vector<std::pair<QLineEdit*, std::string LessonPlan::*>> m_lines;
    QPlainTextEdit* m_glossary;
};

} // namespace wirenote::app
