#pragma once

#include "app/strip/lane.h"
#include "form/harmony.h"

namespace wirenote::app {

class ChordCommands;
class Derived;
class Document;

// The chords that sound, named. A click chooses the stroke under it.
class ChordsLane : public Lane {
  public:
    ChordsLane(Document& document, Derived& derived, ChordCommands& commands);
    QString name() const override;
    int height() const override { return 24; }
    int importance() const override { return 3; }
    void paint(QPainter& painter, const LaneArea& area) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;
    Press press(QPointF at, const LaneArea& area, Qt::KeyboardModifiers held) override;
    Qt::CursorShape cursorAt(QPointF at, const LaneArea& area) const override;

  private:
    // The chord whose name or stretch lies under a point; null: none.
    const ChordSpan* under(QPointF at, const LaneArea& area) const;

    Document& m_document;
    Derived& m_derived;
    ChordCommands& m_commands;
};

} // namespace wirenote::app
