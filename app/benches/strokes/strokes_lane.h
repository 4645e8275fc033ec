#pragma once

#include "app/strip/lane.h"
#include "piece/one_stroke.h"

namespace wirenote::app {

class Document;
class Selection;
class StrokeCommands;

// How each note is struck. A stroke is painted along the row: pulled from its mark over others, it
// becomes theirs.
class StrokesLane : public Lane {
  public:
    StrokesLane(Document& document, Selection& selection, StrokeCommands& commands);
    QString name() const override;
    int height() const override { return 36; }
    void paint(QPainter& painter, const LaneArea& area) const override;
    Press press(QPointF at, const LaneArea& area, Qt::KeyboardModifiers held) override;
    std::optional<NoteId> noteAt(QPointF at, const LaneArea& area) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;

  private:
    void paintTogether(QPainter& painter, const LaneArea& area, IndexSpan together) const;

    Document& m_document;
    Selection& m_selection;
    StrokeCommands& m_commands;
};

} // namespace wirenote::app
