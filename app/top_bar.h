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
class Transport;

// What is open, where it plays, and the doubts that are left.
class TopBar : public QWidget {
    Q_OBJECT
  public:
    TopBar(Document& document,
           Derived& derived,
           Transport& transport,
           EditCommands& commands,
           QWidget* parent = nullptr);

  private:
    void refresh();
    QStringList listeningFacts() const;
    void refreshTime();

    Document& m_document;
    Derived& m_derived;
    Transport& m_transport;
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
