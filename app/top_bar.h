#pragma once

#include "app/workbench.h"

#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QIcon>
#include <QWidget>

namespace wirenote::app {

// What is open, where it plays, and the doubts that are left.
class TopBar : public QWidget {
    Q_OBJECT
  public:
    explicit TopBar(Workbench bench, QWidget* parent = nullptr);

  private:
    void refresh();
    QStringList listeningFacts() const;
    void refreshTime();

    Workbench m_bench;
    QLabel* m_title;
    QLabel* m_facts;
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
