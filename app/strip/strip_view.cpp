#include "app/strip/strip_view.h"

#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/playing/transport.h"
#include "app/strip/time_lanes.h"
#include "app/strip/time_view.h"
#include "app/text/wording.h"
#include "app/theme.h"

#include <QContextMenuEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>
#include <numeric>
#include <utility>

namespace wirenote::app {
namespace {
constexpr double kGutter = 62.0;
constexpr int kScrollHeight = 14;
constexpr double kLeastRest = 96.0;    // of the lane that takes what is left: the wires
constexpr double kLoopThreshold = 6.0; // pixels; less is a click that seeks
constexpr double kDropThreshold = 2.0;
constexpr double kMarginToSee_s = 1.0; // what begins so far off may reach into sight
} // namespace

StripView::StripView(
    Document& document, Selection& selection, TimeView& time, Transport& transport, QWidget* parent)
    : QWidget(parent), m_document(document), m_selection(selection), m_time(time),
      m_transport(transport), m_scroll(new QScrollBar(Qt::Horizontal, this)) {
    setObjectName("strip");
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setMinimumHeight(150);
    setAccessibleName(tr("Strip: the wires across time"));
    m_scroll->setAccessibleName(tr("Scroll through the piece"));
    m_scroll->setFocusPolicy(Qt::NoFocus);
    connect(&document, &Document::opened, this, [this] {
        m_time.setLength(m_document.length_s());
        m_time.show(0.0, std::min(8.0, m_document.length_s()));
        invalidate();
    });
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.notes || what.takes)
            m_time.setLength(m_document.length_s());
        if (what.timeline || what.takes || what.instrument)
            invalidate(); // bar lines, and how high the lanes are
    });
    connect(&time, &TimeView::changed, this, [this] {
        syncScrollBar();
        invalidate();
    });
    connect(&selection, &Selection::changed, this, [this] {
        if (const Note* note = m_document.piece().note(m_selection.note()))
            m_time.bringIntoView(note->onset_s());
        describe();
    });
    connect(&transport, &Transport::changed, this, [this] { invalidate(); });
    connect(&transport, &Transport::moved, this, [this] {
        if (m_transport.playing())
            m_time.bringIntoView(m_transport.playhead_s());
        update();
    });
    connect(m_scroll, &QScrollBar::valueChanged, this, [this](int value) {
        if (std::abs(value / 1000.0 - m_time.start_s()) > 0.002)
            m_time.show(value / 1000.0, m_time.span_s());
    });
}

void StripView::showLanes(std::vector<std::unique_ptr<Lane>> lanes) {
    m_drag.reset(); // of a lane that goes
    m_lanes = std::move(lanes);
    for (const auto& lane : m_lanes)
        connect(lane.get(), &Lane::stale, this, [this](TimeRange where) {
            if (where.empty() || (where.start_s <= m_time.end_s() + kMarginToSee_s &&
                                  where.end_s >= m_time.start_s() - kMarginToSee_s))
                invalidate();
        });
    invalidate();
}

void StripView::invalidate() {
    m_stale = true;
    update();
}

void StripView::syncScrollBar() {
    const TimeView& time = m_time;
    m_scroll->setPageStep(static_cast<int>(time.span_s() * 1000));
    m_scroll->setRange(0, static_cast<int>(std::max(0.0, time.length_s() - time.span_s()) * 1000));
    m_scroll->setSingleStep(static_cast<int>(time.span_s() * 100));
    m_scroll->setValue(static_cast<int>(time.start_s() * 1000));
}

// What a screen reader says of the chosen note.
void StripView::describe() {
    const Piece& piece = m_document.piece();
    const Note* note = piece.note(m_selection.note());
    const NotePlan* plan = piece.plan(m_selection.note());
    setAccessibleDescription(!note || !plan ? tr("No note chosen")
                                            : tr("%1, string %2, fret %3, at %4")
                                                  .arg(pitchText(piece, note->pitch.value))
                                                  .arg(plan->position.value.string)
                                                  .arg(plan->position.value.fret)
                                                  .arg(timeText(note->onset_s())));
}

LaneArea StripView::wholeArea() const {
    LaneArea area;
    area.rect = QRectF(kGutter, 0, width() - kGutter - 4, height() - kScrollHeight);
    area.start_s = m_time.start_s();
    area.pixels_per_s = area.rect.width() / m_time.span_s();
    return area;
}

// How high each lane is now.
std::vector<double> StripView::heights() const {
    const double room = wholeArea().rect.height();
    std::vector<double> heights;
    std::vector<std::size_t> by_importance;
    double over = -room;
    for (std::size_t i = 0; i < m_lanes.size(); ++i) {
        const bool takes_the_rest = m_lanes[i]->height() == 0;
        heights.push_back(!m_lanes[i]->wanted() ? 0
                          : takes_the_rest      ? kLeastRest
                                                : m_lanes[i]->height());
        over += heights.back();
        if (!takes_the_rest)
            by_importance.push_back(i);
    }
    std::ranges::stable_sort(
        by_importance, {}, [this](std::size_t i) { return m_lanes[i]->importance(); });
    const auto lower = [&](std::size_t i, double to) {
        const double by = std::clamp(over, 0.0, std::max(0.0, heights[i] - to));
        heights[i] -= by;
        over -= by;
    };
    for (const std::size_t i : by_importance)
        lower(i, m_lanes[i]->leastHeight());
    for (const std::size_t i : by_importance)
        if (over > 0.0) {
            over -= heights[i];
            heights[i] = 0.0;
        }
    for (std::size_t i = 0; i < m_lanes.size(); ++i)
        if (m_lanes[i]->height() == 0)
            heights[i] += std::max(0.0, -over);
    return heights;
}

LaneArea StripView::areaOf(std::size_t lane) const {
    LaneArea area = wholeArea();
    const auto high = heights();
    const double top =
        std::accumulate(high.begin(), high.begin() + static_cast<std::ptrdiff_t>(lane), 0.0);
    area.rect = QRectF(area.rect.left(), top, area.rect.width(), high[lane]);
    return area;
}

std::optional<QPointF> StripView::noteCentre(NoteId note, int ghost_string) const {
    for (std::size_t i = 0; i < m_lanes.size(); ++i)
        if (const auto centre = m_lanes[i]->noteCentre(note, ghost_string, areaOf(i)))
            return centre;
    return {};
}

void StripView::resizeEvent(QResizeEvent*) {
    m_scroll->setGeometry(static_cast<int>(kGutter),
                          height() - kScrollHeight,
                          width() - static_cast<int>(kGutter),
                          kScrollHeight);
    invalidate();
}

void StripView::paintEvent(QPaintEvent*) {
    if (m_stale || m_cache.size() != size() * devicePixelRatioF()) {
        m_cache = QPixmap(size() * devicePixelRatioF());
        m_cache.setDevicePixelRatio(devicePixelRatioF());
        m_cache.fill(theme().paper);
        QPainter cache(&m_cache);
        paintLanes(cache);
        m_stale = false;
    }
    QPainter painter(this);
    painter.drawPixmap(0, 0, m_cache);
    if (m_drag)
        paintDrag(painter, *m_drag);
    if (m_document.isOpen())
        paintPlayhead(painter);
    if (hasFocus()) {
        painter.setPen(QPen(theme().accent, 1.0));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

void StripView::paintLanes(QPainter& painter) const {
    if (!m_document.isOpen())
        return;
    if (m_transport.loop())
        paintLoop(painter, *m_transport.loop());
    painter.save();
    painter.setClipRect(wholeArea().rect);
    paintBarLines(painter, m_document.piece().timeline, wholeArea());
    painter.restore();
    for (std::size_t i = 0; i < m_lanes.size(); ++i) {
        const LaneArea area = areaOf(i);
        if (area.rect.height() < 1.0)
            continue; // no room
        painter.save();
        painter.setClipRect(area.rect);
        m_lanes[i]->paint(painter, area);
        painter.restore();
        painter.setPen(theme().quiet);
        painter.setFont(uiFont(7.5));
        painter.drawText(QRectF(8, area.rect.top(), kGutter - 10, area.rect.height()),
                         Qt::AlignVCenter | Qt::AlignLeft,
                         m_lanes[i]->name());
        painter.setPen(theme().line);
        painter.drawLine(QPointF(0, area.rect.bottom()), QPointF(width(), area.rect.bottom()));
        m_lanes[i]->paintGutter(painter, area, kGutter);
    }
}

void StripView::paintLoop(QPainter& painter, TimeRange loop) const {
    const LaneArea area = wholeArea();
    QColor tint = theme().accent;
    tint.setAlpha(28);
    const QRectF box =
        QRectF(area.xOf(loop.start_s), 0, loop.length_s() * area.pixels_per_s, area.rect.height())
            .intersected(area.rect);
    painter.fillRect(box, tint);
    painter.fillRect(QRectF(box.left(), 0, box.width(), 3), theme().accent);
}

void StripView::paintPlayhead(QPainter& painter) const {
    const LaneArea area = wholeArea();
    const double x = area.xOf(m_transport.playhead_s());
    if (x < area.rect.left() - 1 || x > area.rect.right() + 1)
        return;
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(theme().accent, 1.8));
    painter.drawLine(QPointF(x, 0), QPointF(x, area.rect.height()));
    painter.setPen(Qt::NoPen);
    painter.setBrush(theme().accent);
    const QPointF head[] = {{x - 6, 0}, {x + 6, 0}, {x, 9}};
    painter.drawPolygon(head, 3);
}

void StripView::wheelEvent(QWheelEvent* event) {
    const QPoint turn = event->angleDelta();
    const int amount = std::abs(turn.x()) > std::abs(turn.y()) ? turn.x() : turn.y();
    if (event->modifiers() & Qt::ControlModifier)
        m_time.zoom(std::pow(1.2, amount / 120.0), wholeArea().timeAt(event->position().x()));
    else
        m_time.pan(-amount / 120.0 * 0.12 * m_time.span_s());
    event->accept();
}

// The lane there, its gutter included.
std::optional<std::size_t> StripView::laneAt(QPointF at) const {
    const QPointF inside(std::max(at.x(), wholeArea().rect.left()), at.y());
    for (std::size_t i = 0; i < m_lanes.size(); ++i)
        if (areaOf(i).rect.contains(inside))
            return i;
    return {};
}

void StripView::paintDrag(QPainter& painter, const Drag& drag) const {
    if (drag.loops) {
        paintLoop(painter, {std::min(drag.from_s, drag.now_s), std::max(drag.from_s, drag.now_s)});
        return;
    }
    if (!drag.press.drop || !drag.moved)
        return;
    painter.setPen(QPen(theme().accent, 1.5, Qt::DashLine));
    const auto line = [&](double time_s) {
        const double x = wholeArea().xOf(time_s);
        painter.drawLine(QPointF(x, 0), QPointF(x, height() - kScrollHeight));
    };
    line(drag.now_s);
    if (drag.press.shows_beginning)
        line(drag.from_s);
}

QString StripView::words(QPointF at) const {
    const auto lane = laneAt(at);
    return lane && m_document.isOpen() ? m_lanes[*lane]->tellAt(at, areaOf(*lane)) : QString();
}

void StripView::tell(QPointF at, QPoint global) {
    const QString words = this->words(at);
    if (words.isEmpty())
        QToolTip::hideText();
    else
        QToolTip::showText(global + QPoint(6, 6), words, this);
}

void StripView::mousePressEvent(QMouseEvent* event) {
    setFocus();
    if (event->button() != Qt::LeftButton || !m_document.isOpen())
        return;
    const QPointF at = event->position();
    const double at_s = std::max(0.0, wholeArea().timeAt(at.x()));
    const auto lane = laneAt(at);
    Press press = lane ? m_lanes[*lane]->press(at, areaOf(*lane), event->modifiers()) : Press{};
    if (press.taken && !press.drop)
        return;
    if (!press.taken) {
        if (at.x() < wholeArea().rect.left())
            return;
        press = {};
        if (event->modifiers() & Qt::ShiftModifier) { // notes are chosen, not a loop
            press.drop = [this](double from_s, double to_s) {
                m_selection.choosePassage({std::min(from_s, to_s), std::max(from_s, to_s)});
            };
            press.shows_beginning = true;
        } else {
            m_transport.seek(at_s);
        }
    }
    m_drag = Drag{std::move(press), at_s, at_s, false, false};
}

void StripView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF at = event->position();
    m_time.point(at.x() < wholeArea().rect.left()
                     ? std::nullopt
                     : std::optional(std::max(0.0, wholeArea().timeAt(at.x()))));
    if (!m_drag) {
        const auto lane = laneAt(at);
        setCursor(lane && m_document.isOpen() ? m_lanes[*lane]->cursorAt(at, areaOf(*lane))
                                              : Qt::ArrowCursor);
        tell(at, event->globalPosition().toPoint());
        return;
    }
    m_drag->now_s = std::clamp(wholeArea().timeAt(at.x()), 0.0, m_time.length_s());
    const double moved = std::abs(m_drag->now_s - m_drag->from_s) * wholeArea().pixels_per_s;
    if (m_drag->press.drop)
        m_drag->moved = moved > kDropThreshold;
    else
        m_drag->loops = m_drag->loops || moved > kLoopThreshold;
    update();
}

void StripView::mouseReleaseEvent(QMouseEvent*) {
    if (!m_drag)
        return;
    const Drag drag = *std::exchange(m_drag, std::nullopt);
    if (drag.loops)
        m_transport.setLoop(
            TimeRange{std::min(drag.from_s, drag.now_s), std::max(drag.from_s, drag.now_s)});
    else if (drag.moved)
        drag.press.drop(drag.from_s, drag.now_s);
    update();
}

// A chord by one of its notes.
void StripView::mouseDoubleClickEvent(QMouseEvent* event) {
    const auto lane = laneAt(event->position());
    if (const auto note = lane && m_document.isOpen()
                              ? m_lanes[*lane]->noteAt(event->position(), areaOf(*lane))
                              : std::nullopt)
        m_selection.chooseStroke(*note);
}

void StripView::leaveEvent(QEvent*) {
    m_time.point({});
}

// What can be done there: of the note under the pointer, which is chosen.
void StripView::contextMenuEvent(QContextMenuEvent* event) {
    if (!m_document.isOpen())
        return;
    const QPointF at = event->reason() == QContextMenuEvent::Mouse
                           ? QPointF(event->pos())
                           : noteCentre(m_selection.note()).value_or(QPointF(rect().center()));
    const auto lane = laneAt(at);
    if (const auto note = lane ? m_lanes[*lane]->noteAt(at, areaOf(*lane)) : std::nullopt;
        note && !m_selection.isChosen(*note))
        m_selection.choose(*note);
    m_time.point(std::max(0.0, wholeArea().timeAt(at.x())));
    emit menuWanted(mapToGlobal(at.toPoint()));
}

} // namespace wirenote::app
