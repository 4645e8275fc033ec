#pragma once

#include "app/workbench.h"

#include <QPainter>
#include <QRectF>
#include <QString>

namespace wirenote::app {

// Where a lane is on the strip, and how time maps to its width.
struct LaneArea {
    QRectF rect; // without the gutter that holds the lane's name
    double start_s = 0.0;
    double pixels_per_s = 100.0;

    double xOf(double time_s) const { return rect.left() + (time_s - start_s) * pixels_per_s; }
    double timeAt(double x) const { return start_s + (x - rect.left()) / pixels_per_s; }
    double end_s() const { return timeAt(rect.right()); }
};

// One row of the strip. Lanes paint and know nothing of each other.
class Lane {
  public:
    explicit Lane(Workbench& bench) : m_bench(bench) {}
    virtual ~Lane() = default;
    virtual QString name() const = 0;
    virtual int height() const = 0; // 0: takes the room that is left
    virtual void paint(QPainter& painter, const LaneArea& area) const = 0;
    // Marks in the gutter, where the lane's name stands otherwise.
    virtual void paintGutter(QPainter&, const LaneArea&, double) const {}
    // What lies under a point, in words; empty: nothing to say.
    virtual QString tellAt(QPointF, const LaneArea&) const { return {}; }

  protected:
    Workbench& m_bench;
};

} // namespace wirenote::app
