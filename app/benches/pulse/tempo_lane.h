#pragma once

#include "app/strip/lane.h"

namespace wirenote::app {

class Document;

// The tempo as a curve, beat by beat.
class TempoLane : public Lane {
  public:
    explicit TempoLane(Document& document);
    QString name() const override;
    int height() const override { return 54; }
    int leastHeight() const override { return 36; }
    int importance() const override { return 4; }
    void paint(QPainter& painter, const LaneArea& area) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;

  private:
    Document& m_document;
};

} // namespace wirenote::app
