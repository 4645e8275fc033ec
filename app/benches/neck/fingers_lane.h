#pragma once

#include "app/strip/lane.h"
#include "piece/one_stroke.h"

namespace wirenote::app {

class Document;
class Selection;

// Which finger presses each note, and the position of the hand.
class FingersLane : public Lane {
  public:
    FingersLane(Document& document, Selection& selection);
    QString name() const override;
    int height() const override { return 44; }
    void paint(QPainter& painter, const LaneArea& area) const override;

  private:
    void paintFingers(QPainter& painter, const LaneArea& area, IndexSpan stroke) const;

    Document& m_document;
    Selection& m_selection;
};

} // namespace wirenote::app
