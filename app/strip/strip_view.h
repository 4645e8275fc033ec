#pragma once

#include "app/strip/lane.h"
#include "app/strip/sound_lanes.h"
#include "app/strip/time_lanes.h"
#include "app/strip/wires_lane.h"

#include <QPixmap>
#include <QScrollBar>
#include <QWidget>
#include <memory>
#include <optional>
#include <vector>

namespace wirenote::app {

enum class LaneSet { Takes, Pulse, Notes, Neck, Strokes };

// A stack of lanes that share one time axis.
class StripView : public QWidget {
    Q_OBJECT
  public:
    explicit StripView(Workbench bench, QWidget* parent = nullptr);
    void showLanes(LaneSet set);
    QSize sizeHint() const override { return {860, 460}; }
    // The middle of a note's fret number, or of one of its ghosts, in this widget: for tests and
    // tooltips.
    std::optional<QPointF> noteCentre(NoteId note, int ghost_string = 0) const;

    QString words(QPointF at) const; // what lies under a point; empty: nothing to say

  signals:
    void filesDropped(const QStringList& files);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;

  private:
    struct Drag {
        enum class Kind { Seek, Loop, Start, End, Take, Beat } kind = Kind::Seek;
        double from_s = 0.0;
        double now_s = 0.0;
        NoteId note = 0;
        std::size_t take = 0;
        int beat = 0;
    };
    bool pressOnCount(const QMouseEvent& event);
    void invalidate();
    void syncScrollBar();
    LaneArea areaOf(std::size_t lane) const;
    LaneArea wholeArea() const;
    void paintLanes(QPainter& painter) const;
    void paintPlayhead(QPainter& painter) const;
    void paintLoop(QPainter& painter, TimeRange loop) const;
    void describe();
    void tell(QPointF at, QPoint global);
    bool pressOnTakes(const QMouseEvent& event);
    std::optional<std::size_t> laneAt(QPointF at) const;

    Workbench m_bench;
    std::vector<std::unique_ptr<Lane>> m_lanes;
    WiresLane* m_wires = nullptr; // one of m_lanes
    TakesLane* m_takes = nullptr; // one of m_lanes
    CountLane* m_count = nullptr; // one of m_lanes
    QScrollBar* m_scroll;
    QPixmap m_cache;
    bool m_stale = true;
    std::optional<Drag> m_drag;
};

} // namespace wirenote::app
