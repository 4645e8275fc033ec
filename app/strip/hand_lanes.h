// What the two hands do: fretting fingers with positions, and strokes.
#pragma once

#include "app/strip/lane.h"
#include "piece/one_stroke.h"

namespace wirenote::app {

class FingersLane : public Lane {
  public:
    using Lane::Lane;
    QString name() const override;
    int height() const override { return 44; }
    void paint(QPainter& painter, const LaneArea& area) const override;

  private:
    void paintFingers(QPainter& painter, const LaneArea& area, IndexSpan stroke) const;
};

class StrokesLane : public Lane {
  public:
    using Lane::Lane;
    QString name() const override;
    int height() const override { return 36; }
    void paint(QPainter& painter, const LaneArea& area) const override;
};

} // namespace wirenote::app
