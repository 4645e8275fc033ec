#pragma once

#include "app/workbench.h"

#include <QAbstractButton>
#include <QButtonGroup>
#include <QWidget>

namespace wirenote::app {

enum class BenchKind { Takes, Pulse, Notes, Neck, Strokes, Sheet };
constexpr int kBenchCount = 6;

// The benches in the order of the work, each with how far it is.
class Rail : public QWidget {
    Q_OBJECT
  public:
    explicit Rail(Workbench bench, QWidget* parent = nullptr);
    void setCurrent(BenchKind kind);
    static QString nameOf(BenchKind kind);

  signals:
    void chosen(BenchKind kind);

  private:
    void refresh();
    Workbench m_bench;
    QButtonGroup m_buttons;
};

} // namespace wirenote::app
