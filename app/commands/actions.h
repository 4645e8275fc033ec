#pragma once

#include "app/rail.h"
#include "app/workbench.h"

#include <QAction>
#include <QMenuBar>
#include <QObject>
#include <functional>

namespace wirenote::app {

class Exporting;
class Opening;

// Every action with its key, and the menus that list them. One-handed: the left hand stays on the
// neck.
class Actions : public QObject {
    Q_OBJECT
  public:
    Actions(Workbench bench, Opening& opening, Exporting& exporting, QWidget* window);
    void fill(QMenuBar& menus);

  signals:
    void benchWanted(BenchKind kind);
    void quitWanted();
    void stiffnessWanted(); // the stiffness of the whole take, or the strip again
    void partialsWanted();  // of the chosen note, or away with them
    void pictureStepWanted(int pictures);

  private:
    QAction* make(const QString& text,
                  const QKeySequence& key,
                  std::function<void()> run,
                  bool needs_piece = true);
    void fillFile(QMenu& menu);
    void fillEdit(QMenu& menu);
    void fillNote(QMenu& menu);
    void fillHands(QMenu& menu);
    void fillListen(QMenu& menu);
    void fillPulse(QMenu& menu);
    void fillTakes(QMenu& menu);
    void fillView(QMenu& menu);
    void refresh();

    Workbench m_bench;
    Opening& m_opening;
    Exporting& m_exporting;
    QWidget* m_window;
    QList<QAction*> m_needing_piece;
};

} // namespace wirenote::app
