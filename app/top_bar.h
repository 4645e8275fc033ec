#pragma once

#include <QIcon>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QWidget>

namespace wirenote::app {

class Derived;
class Document;
class ElidedLabel;
class EditCommands;
class Questions;
class TakeCommands;
class Transport;

// What is open, where it plays, and the doubts that are left.
class TopBar : public QWidget {
    Q_OBJECT
  public:
    TopBar(Document& document,
           Derived& derived,
           Transport& transport,
           TakeCommands& takes,
           Questions& questions,
           EditCommands& commands,
           QWidget* parent = nullptr);

  private:
    void refresh();
    QStringList listeningFacts() const;
    QString doubtsLine() const;
    void refreshTime();

    Document& m_document;
    Derived& m_derived;
    Transport& m_transport;
    TakeCommands& m_takes;
    Questions& m_questions;
    EditCommands& m_commands;
    ElidedLabel* m_title;
    ElidedLabel* m_facts;
    QToolButton* m_play;
    QLabel* m_time;
    QToolButton* m_listening;
    QLabel* m_loop;
    QPushButton* m_doubts;
    // Made once: each new icon stays in the cache of pictures.
    QIcon m_start;
    QIcon m_stop;
};

} // namespace wirenote::app
