#pragma once

#include "base/time_range.h"
#include "piece/note.h"

#include <QObject>
#include <QPainter>
#include <QRectF>
#include <QString>
#include <functional>
#include <optional>

namespace wirenote::app {

// Where a lane is on the strip, and how time maps to its width.
struct LaneArea {
    QRectF rect; // without the gutter that holds the lane's name
    double start_s = 0.0;
    double pixels_per_s = 100.0;

    double xOf(double time_s) const { return rect.left() + (time_s - start_s) * pixels_per_s; }
    double timeAt(double x) const { return start_s + (x - rect.left()) / pixels_per_s; }
    double end_s() const { return timeAt(rect.right()); }
    // Whether what is written at a moment is in sight, if only in part.
    bool sees(double time_s) const { return time_s > start_s - 0.3 && time_s < end_s() + 0.3; }
};

// What a press of the mouse on a lane began.
struct Press {
    bool taken = false; // false: it is not for the lane, the strip seeks or marks a loop
    // When it can be dragged: where the drag began and where it was dropped, in seconds. A press
    // that does not move drops nothing.
    std::function<void(double from_s, double to_s)> drop;
    bool shows_beginning = false; // a line where the drag began, beside the one under the mouse
};

// One row of the strip. Lanes paint what they show, take the mouse on it, and know nothing of each
// other.
class Lane : public QObject {
    Q_OBJECT
  public:
    virtual QString name() const = 0;
    virtual int height() const = 0; // 0: takes the room that is left
    // Where the window is low, lanes are made as low as this, and then left out, the least
    // important first.
    virtual int leastHeight() const { return height(); }
    virtual int importance() const { return 5; }
    // Whether there is anything to show of the piece that is open; else it takes no room.
    virtual bool wanted() const { return true; }
    virtual void paint(QPainter& painter, const LaneArea& area) const = 0;
    // Marks in the gutter, where the lane's name stands otherwise.
    virtual void paintGutter(QPainter& painter, const LaneArea& area, double gutter) const;
    // What lies under a point, in words; empty: nothing to say.
    virtual QString tellAt(QPointF at, const LaneArea& area) const;

    // The mouse at a point of the lane or of its gutter.
    virtual Press press(QPointF at, const LaneArea& area, Qt::KeyboardModifiers held);
    virtual std::optional<NoteId> noteAt(QPointF at, const LaneArea& area) const;
    virtual Qt::CursorShape cursorAt(QPointF at, const LaneArea& area) const;
    // The middle of a note's mark, or of one of its ghosts (by its string); for tests and tooltips.
    virtual std::optional<QPointF>
    noteCentre(NoteId note, int ghost_string, const LaneArea& area) const;

  signals:
    // What it shows of this stretch of time is no longer true; empty: of all of it.
    void stale(TimeRange where);

  protected:
    // Sees to it that the lane is painted anew after a signal that carries no stretch.
    template <class Sender, class Signal> void follow(const Sender& sender, Signal signal) {
        connect(&sender, signal, this, [this] { emit stale({}); });
    }
};

} // namespace wirenote::app
