#pragma once

#include "app/card.h"
#include "lesson/claims.h"

#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <vector>

namespace wirenote::app {

class Document;
class LessonBook;
class LessonCommands;
class RowList;
class Selection;
class Transport;

// Where people stumble, the likeliest first, and what a teacher has seen beside it.
class StumblesList : public QWidget {
    Q_OBJECT
  public:
    StumblesList(Document& document,
                 LessonBook& book,
                 LessonCommands& commands,
                 Selection& selection,
                 Transport& transport,
                 QWidget* parent = nullptr);

  private:
    void rebuild();
    void addOverPieces();

    Document& m_document;
    LessonBook& m_book;
    LessonCommands& m_commands;
    Selection& m_selection;
    Transport& m_transport;
    RowList* m_list;
    std::vector<int> m_over; // pupils by kind over several pieces; empty: not counted
    int m_pieces = 0;
    QComboBox* m_kind;
    QLineEdit* m_remark;
    QSpinBox* m_pupils;
};

// What is said in the captions against what is played: contradictions first.
class ClaimsList : public QWidget {
    Q_OBJECT
  public:
    ClaimsList(LessonBook& book,
               LessonCommands& commands,
               Selection& selection,
               Transport& transport,
               QWidget* parent = nullptr);

  private:
    void rebuild();
    void addClaims(ClaimVerdict verdict);
    void goTo(const CheckedClaim& claim);
    void chooseFile();

    LessonBook& m_book;
    LessonCommands& m_commands;
    Selection& m_selection;
    Transport& m_transport;
    RowList* m_list;
    QComboBox* m_shown;
};

// After publishing: objections with their answers, versions, and what of a pack is out of date.
class PublishedList : public QWidget {
    Q_OBJECT
  public:
    PublishedList(Document& document,
                  LessonCommands& commands,
                  Transport& transport,
                  QWidget* parent = nullptr);

  private:
    void rebuild();
    void addRows(QHBoxLayout* row);
    int chosenObjection() const;

    Document& m_document;
    LessonCommands& m_commands;
    Transport& m_transport;
    RowList* m_list;
    QLineEdit* m_text;
    QLineEdit* m_who;
    QStringList m_old;               // files of the pack
    std::vector<int> m_objection_of; // by row; −1: none
};

} // namespace wirenote::app
