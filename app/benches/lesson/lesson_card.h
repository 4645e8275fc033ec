#pragma once

#include "app/card.h"

#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <vector>

namespace wirenote::app {

class Document;
class LessonBook;
class LessonCommands;

// How the lesson is taught and spoken, how it is cut, and what is made of it.
class LessonCard : public Card {
    Q_OBJECT
  public:
    LessonCard(Document& document,
               LessonBook& book,
               LessonCommands& commands,
               QWidget* parent = nullptr);

    void askForFolder(); // of the pack

  signals:
    void promptWanted();
    void previewWanted();

  private:
    void addManner();
    void addCutting();
    void addMaking();
    QComboBox* choice(const QString& label, const char* name, const QStringList& items);
    void refresh();
    void keepTempi();

    Document& m_document;
    LessonBook& m_book;
    LessonCommands& m_commands;
    QComboBox* m_order = nullptr;
    QComboBox* m_strings = nullptr;
    QComboBox* m_fingers = nullptr;
    QComboBox* m_strokes = nullptr;
    QComboBox* m_notes = nullptr;
    QComboBox* m_count = nullptr;
    QComboBox* m_language = nullptr;
    QLineEdit* m_tempi;
    QLineEdit* m_title;
    QPushButton *m_left_out, *m_free;
    QLabel* m_sum; // how many steps, how long
};

} // namespace wirenote::app
