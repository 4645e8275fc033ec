#pragma once

#include "app/strip/lane.h"

#include <QPixmap>
#include <QScrollBar>
#include <QWidget>
#include <memory>
#include <optional>
#include <vector>

namespace wirenote::app {

class Document;
class Selection;
class TimeView;
class Transport;

// A stack of lanes that share one time axis. What a lane does not want of the mouse seeks, or marks
// a loop.
class StripView : public QWidget {
    Q_OBJECT
  public:
    StripView(Document& document,
              Selection& selection,
              TimeView& time,
              Transport& transport,
              QWidget* parent = nullptr);
    void showLanes(std::vector<std::unique_ptr<Lane>> lanes);
    const std::vector<std::unique_ptr<Lane>>& lanes() const { return m_lanes; } // for tests
    QSize sizeHint() const override { return {860, 460}; }
    // The middle of a note's fret number, or of one of its ghosts, in this widget: for tests and
    // tooltips.
    std::optional<QPointF> noteCentre(NoteId note, int ghost_string = 0) const;

    QString words(QPointF at) const;           // what lies under a point; empty: nothing to say
    bool upToDate() const { return !m_stale; } // nothing has to be painted anew

  signals:
    void menuWanted(QPoint global); // what can be done under the pointer

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;

  private:
    struct Drag {
        Press press; // of a lane, with a drop; else it is the strip's own
        double from_s = 0.0;
        double now_s = 0.0;
        bool loops = false; // it marks a loop
        bool moved = false; // far enough to be dropped
    };
    void invalidate();
    void syncScrollBar();
    std::vector<double> heights() const;
    LaneArea areaOf(std::size_t lane) const;
    LaneArea wholeArea() const;
    void paintLanes(QPainter& painter) const;
    void paintPlayhead(QPainter& painter) const;
    void paintLoop(QPainter& painter, TimeRange loop) const;
    void paintDrag(QPainter& painter, const Drag& drag) const;
    void describe();
    void tell(QPointF at, QPoint global);
    std::optional<std::size_t> laneAt(QPointF at) const;

    Document& m_document;
    Selection& m_selection;
    TimeView& m_time;
    Transport& m_transport;
    std::vector<std::unique_ptr<Lane>> m_lanes;
    QScrollBar* m_scroll;
    QPixmap m_cache;
    bool m_stale = true;
    std::optional<Drag> m_drag;
};

} // namespace wirenote::app
