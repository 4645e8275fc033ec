#pragma once

#include "app/strip/lane.h"
#include "session/hand_picture.h"

namespace wirenote::app {

class Document;
class Selection;

// What the plucking hand does: patterns that come again over the bars they last; below, of a pick
// the hand's motion as one line and its way over the strings, of the fingers a row for each.
class HandLane : public Lane {
  public:
    HandLane(Document& document, Selection& selection);
    QString name() const override;
    int height() const override { return 156; }
    int leastHeight() const override { return 110; }
    int importance() const override { return 4; }
    void paint(QPainter& painter, const LaneArea& area) const override;
    void paintGutter(QPainter& painter, const LaneArea& area, double gutter) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;
    std::optional<NoteId> noteAt(QPointF at, const LaneArea& area) const override;

  private:
    struct Rooms { // parts of the lane, from top to bottom
        QRectF cells;
        QRectF motion;
        QRectF strings; // of the pick's way; of the fingers with `motion` one room
    };
    Rooms roomsIn(const QRectF& rect) const;
    bool picked() const;
    const HandPicture& picture() const;
    double stringY(const QRectF& room, int string) const;
    static double fingerY(const QRectF& room, Stroke finger);
    void paintCells(QPainter& painter, const LaneArea& area, const QRectF& room) const;
    void paintMotion(QPainter& painter, const LaneArea& area, const QRectF& room) const;
    void paintPick(QPainter& painter, const LaneArea& area, const QRectF& room) const;
    void paintFingers(QPainter& painter, const LaneArea& area, const QRectF& room) const;

    Document& m_document;
    Selection& m_selection;
    mutable HandPicture m_picture;
    mutable bool m_fresh = false; // the picture is that of the piece
};

} // namespace wirenote::app
