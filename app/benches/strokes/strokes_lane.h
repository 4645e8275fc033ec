#pragma once

#include "app/strip/lane.h"
#include "piece/one_stroke.h"

namespace wirenote::app {

class Document;
class Selection;

// How each note is struck.
class StrokesLane : public Lane {
  public:
    StrokesLane(Document& document, Selection& selection);
    QString name() const override;
    int height() const override { return 36; }
    void paint(QPainter& painter, const LaneArea& area) const override;

  private:
    void paintTogether(QPainter& painter, const LaneArea& area, IndexSpan together) const;

    Document& m_document;
    Selection& m_selection;
};

} // namespace wirenote::app
