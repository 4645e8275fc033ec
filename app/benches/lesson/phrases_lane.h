#pragma once

#include "app/strip/lane.h"

namespace wirenote::app {

class LessonBook;
class LessonCommands;

// The phrases that are taught; a click chooses one, where one begins can be dragged.
class PhrasesLane : public Lane {
  public:
    PhrasesLane(LessonBook& book, LessonCommands& commands);
    QString name() const override;
    int height() const override { return 30; }
    int importance() const override { return 8; }
    void paint(QPainter& painter, const LaneArea& area) const override;
    QString tellAt(QPointF at, const LaneArea& area) const override;
    Press press(QPointF at, const LaneArea& area, Qt::KeyboardModifiers held) override;
    Qt::CursorShape cursorAt(QPointF at, const LaneArea& area) const override;

  private:
    std::optional<std::size_t> under(QPointF at, const LaneArea& area) const;
    std::optional<std::size_t> cutUnder(QPointF at, const LaneArea& area) const;

    LessonBook& m_book;
    LessonCommands& m_commands;
};

} // namespace wirenote::app
