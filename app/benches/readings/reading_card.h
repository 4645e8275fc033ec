#pragma once

#include "app/card.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

namespace wirenote::app {

class Derived;
class Document;
class ReadingCommands;

// Which readings there are and which is shown, what can be said of it, and how others are made.
class ReadingCard : public Card {
    Q_OBJECT
  public:
    ReadingCard(Document& document,
                Derived& derived,
                ReadingCommands& commands,
                QWidget* parent = nullptr);

  private:
    void addList();
    void addSayings();
    void addMaking();
    void addBlending();
    void make();
    void showPlaceholder();
    void refresh();
    void refreshSayings();

    void refreshExactness();

    Document& m_document;
    Derived& m_derived;
    ReadingCommands& m_commands;
    QListWidget* m_list;
    QPushButton* m_remove;
    QLabel* m_from;      // what it was made from
    QLabel* m_exactness; // and what stands against more
    QComboBox* m_claim;
    QLineEdit* m_name;
    QDoubleSpinBox* m_from_bpm;
    QDoubleSpinBox* m_to_bpm;
    QComboBox* m_kind;
    QLineEdit* m_value;
    QComboBox* m_source;
    QLineEdit* m_why;
    QPushButton* m_blend;
};

} // namespace wirenote::app
