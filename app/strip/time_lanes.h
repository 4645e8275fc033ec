// The lanes that tell where in the piece one is: form, count.
#pragma once

#include "app/strip/lane.h"

#include <optional>

namespace wirenote::app {

class FormLane : public Lane {
  public:
    using Lane::Lane;
    QString name() const override;
    int height() const override { return 24; }
    void paint(QPainter& painter, const LaneArea& area) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;

  private:
    void paintDifferences(QPainter& painter, const LaneArea& area) const;
    void paintBarNumbers(QPainter& painter, const LaneArea& area, bool short_ones) const;
};

class CountLane : public Lane {
  public:
    using Lane::Lane;
    QString name() const override;
    int height() const override { return 26; }
    void paint(QPainter& painter, const LaneArea& area) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;
    // The beat under the mouse, to be dragged.
    std::optional<int> beatAt(double x, const LaneArea& area) const;
};

// The tempo as a curve, beat by beat.
class TempoLane : public Lane {
  public:
    using Lane::Lane;
    QString name() const override;
    int height() const override { return 54; }
    void paint(QPainter& painter, const LaneArea& area) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;
};

// The chords that sound, named.
class ChordsLane : public Lane {
  public:
    using Lane::Lane;
    QString name() const override;
    int height() const override { return 24; }
    void paint(QPainter& painter, const LaneArea& area) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;
};

// Bar lines and beats through every lane.
void paintBarLines(QPainter& painter, const Workbench& bench, const LaneArea& area);

} // namespace wirenote::app
