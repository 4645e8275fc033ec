#pragma once

#include "app/strip/lane.h"
#include "piece/one_stroke.h"

#include <vector>

namespace wirenote::app {

class Document;
class Selection;

// Which finger presses each note, how long it stays down under others, and the positions of the
// hand as bands.
class FingersLane : public Lane {
  public:
    FingersLane(Document& document, Selection& selection);
    QString name() const override;
    int height() const override { return 62; }
    void paint(QPainter& painter, const LaneArea& area) const override;

  private:
    struct Rows;  // how far each row of fingers is written
    struct Band { // where the hand stays
        double from_s = 0.0;
        double to_s = 0.0;
        int hand_fret = 0;
    };
    std::vector<Band> bands() const;
    void paintBands(QPainter& painter, const LaneArea& area) const;
    void paintFingers(QPainter& painter,
                      const LaneArea& area,
                      IndexSpan stroke,
                      double until_s,
                      Rows& rows) const;
    void paintHeld(QPainter& painter,
                   const LaneArea& area,
                   IndexSpan stroke,
                   double until_s,
                   double from_x,
                   Rows& rows) const;

    Document& m_document;
    Selection& m_selection;
};

} // namespace wirenote::app
