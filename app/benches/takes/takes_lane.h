#pragma once

#include "app/strip/lane.h"
#include "piece/take.h"

namespace wirenote::app {

class Document;
class TakeCommands;
class TakeSounds;
class Transport;

// Each take where it lies on the time of the piece, one under the other. Drag one to move it.
class TakesLane : public Lane {
  public:
    TakesLane(Document& document, Transport& transport, TakeSounds& sounds, TakeCommands& commands);
    static constexpr int kRow = 46;
    QString name() const override { return {}; }
    int height() const override;
    void paint(QPainter& painter, const LaneArea& area) const override;
    void paintGutter(QPainter& painter, const LaneArea& area, double gutter) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;
    Press press(QPointF at, const LaneArea& area, Qt::KeyboardModifiers held) override;

  private:
    int takeAt(double y, const LaneArea& area) const; // −1: none
    void paintTake(QPainter& painter, const LaneArea& area, std::size_t take) const;
    void paintStretches(QPainter& painter, const LaneArea& area, std::size_t take) const;
    void
    paintShown(QPainter& painter, const LaneArea& area, const QRectF& row, const Take& take) const;
    void
    paintName(QPainter& painter, const LaneArea& area, const QRectF& row, std::size_t take) const;

    Document& m_document;
    Transport& m_transport;
    TakeSounds& m_sounds;
    TakeCommands& m_commands;
};

} // namespace wirenote::app
