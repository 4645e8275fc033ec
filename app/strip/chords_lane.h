#pragma once

#include "app/strip/lane.h"

namespace wirenote::app {

class Derived;
class Document;

// The chords that sound, named.
class ChordsLane : public Lane {
  public:
    ChordsLane(Document& document, Derived& derived);
    QString name() const override;
    int height() const override { return 24; }
    int importance() const override { return 3; }
    void paint(QPainter& painter, const LaneArea& area) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;

  private:
    Document& m_document;
    Derived& m_derived;
};

} // namespace wirenote::app
