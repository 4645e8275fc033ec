// The heart of the strip: the wires across time, and each note as a stretch of its wire set in
// motion.
#pragma once

#include "app/strip/lane.h"
#include "piece/piece.h"

#include <optional>

namespace wirenote::app {

class Derived;
class Document;
class EditCommands;
class Selection;
class TakeCommands;

class WiresLane : public Lane {
  public:
    WiresLane(Document& document,
              Selection& selection,
              Derived& derived,
              EditCommands& commands,
              TakeCommands& takes);
    QString name() const override { return {}; } // the wires carry their numbers instead
    int height() const override { return 0; }
    void paint(QPainter& painter, const LaneArea& area) const override;
    void paintGutter(QPainter& painter, const LaneArea& area, double gutter) const override;

    QString tellAt(QPointF at, const LaneArea& area) const override;
    Press press(QPointF at, const LaneArea& area, Qt::KeyboardModifiers held) override;
    std::optional<NoteId> noteAt(QPointF at, const LaneArea& area) const override;
    Qt::CursorShape cursorAt(QPointF at, const LaneArea& area) const override;
    std::optional<QPointF>
    noteCentre(NoteId note, int ghost_string, const LaneArea& area) const override;

  private:
    enum class Part { Body, Start, End, Ghost, Miss };
    struct Hit {
        NoteId note = 0;
        Part part = Part::Body;
        int string = 0;       // of a ghost
        std::size_t miss = 0; // which near miss
    };
    // What lies under a point; ghosts only of the chosen note.
    std::optional<Hit> hit(QPointF at, const LaneArea& area) const;
    std::optional<Part>
    partAt(std::size_t index, QPointF at, const LaneArea& area, bool number_only) const;
    std::optional<std::size_t> missAt(QPointF at, const LaneArea& area) const;

    // Two tenths of this much lie between a wire's middle and its neighbour's.
    double wireY(int string, const LaneArea& area) const;
    void paintWires(QPainter& painter, const LaneArea& area) const;
    void paintNote(QPainter& painter, const LaneArea& area, std::size_t index) const;
    void paintSoFar(QPainter& painter, const LaneArea& area) const;
    void paintTechniques(QPainter& painter, const LaneArea& area, std::size_t index) const;
    void paintVibration(
        QPainter& painter, const LaneArea& area, const Note& note, double y, bool doubtful) const;
    void
    paintFret(QPainter& painter, QPointF at, const QString& text, bool hollow, bool strong) const;
    void paintSlur(QPainter& painter, const LaneArea& area, std::size_t index) const;
    void paintCompared(QPainter& painter, const LaneArea& area, std::size_t index) const;
    void paintGhosts(QPainter& painter, const LaneArea& area, std::size_t index) const;
    void paintMisses(QPainter& painter, const LaneArea& area) const;
    void paintUnplaced(QPainter& painter, const LaneArea& area, const Note& note) const;

    Document& m_document;
    Selection& m_selection;
    Derived& m_derived;
    EditCommands& m_commands;
    TakeCommands& m_takes;
};

} // namespace wirenote::app
