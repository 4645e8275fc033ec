#include "app/strip/strip_view.h"

#include "app/document/document.h"
#include "app/commands/edit_commands.h"
#include "app/commands/pulse_commands.h"
#include "app/document/score_facts.h"
#include "app/document/selection.h"
#include "app/strip/hand_lanes.h"
#include "app/strip/time_lanes.h"
#include "app/commands/take_commands.h"
#include "app/strip/take_sounds.h"
#include "app/theme.h"
#include "app/strip/time_view.h"
#include "app/playing/transport.h"
#include "app/text/wording.h"

#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {
constexpr double kGutter = 62.0;
constexpr int kScrollHeight = 14;
constexpr double kDragThreshold = 6.0;
} // namespace

StripView::StripView(Workbench bench, QWidget* parent)
    : QWidget(parent), m_bench(bench), m_scroll(new QScrollBar(Qt::Horizontal, this)) {
    setObjectName("strip");
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setMinimumHeight(300);
    setAccessibleName(tr("Strip: the wires across time"));
    m_scroll->setAccessibleName(tr("Scroll through the piece"));
    m_scroll->setFocusPolicy(Qt::NoFocus);
    const auto stale = [this] { invalidate(); };
    connect(&bench.document, &Document::opened, this, [this] {
        m_bench.time.setLength(m_bench.document.length_s());
        m_bench.time.show(0.0, std::min(8.0, m_bench.document.length_s()));
        invalidate();
    });
    connect(&bench.document, &Document::changed, this, [this] {
        m_bench.time.setLength(m_bench.document.length_s());
        invalidate();
    });
    connect(&bench.time, &TimeView::changed, this, [this] {
        syncScrollBar();
        invalidate();
    });
    connect(&bench.selection, &Selection::changed, this, [this] {
        if (const Note* note = m_bench.document.piece().note(m_bench.selection.note()))
            m_bench.time.bringIntoView(note->onset_s());
        describe();
        invalidate();
    });
    connect(&bench.transport, &Transport::changed, this, stale);
    connect(&bench.transport, &Transport::moved, this, [this] {
        if (m_bench.transport.playing())
            m_bench.time.bringIntoView(m_bench.transport.playhead_s());
        update();
    });
    connect(&bench.sounds, &TakeSounds::changed, this, stale);
    connect(&bench.takes, &TakeCommands::heardMore, this, stale);
    connect(&bench.facts, &ScoreFacts::changed, this, stale);
    connect(m_scroll, &QScrollBar::valueChanged, this, [this](int value) {
        if (std::abs(value / 1000.0 - m_bench.time.start_s()) > 0.002)
            m_bench.time.show(value / 1000.0, m_bench.time.span_s());
    });
    showLanes(LaneSet::Neck);
}

void StripView::showLanes(LaneSet set) {
    m_lanes.clear();
    m_wires = nullptr;
    m_takes = nullptr;
    const auto add = [this](auto lane) { m_lanes.push_back(std::move(lane)); };
    add(std::make_unique<FormLane>(m_bench));
    auto count = std::make_unique<CountLane>(m_bench);
    m_count = count.get();
    add(std::move(count));
    if (set == LaneSet::Takes) {
        auto takes = std::make_unique<TakesLane>(m_bench);
        m_takes = takes.get();
        add(std::move(takes));
        add(std::make_unique<PitchLane>(m_bench, 0));
        invalidate();
        return;
    }
    if (set == LaneSet::Pulse)
        add(std::make_unique<TempoLane>(m_bench));
    if (set == LaneSet::Notes)
        add(std::make_unique<PitchLane>(m_bench, 190));
    add(std::make_unique<SoundLane>(m_bench, set == LaneSet::Pulse ? 110 : 64));
    if (set == LaneSet::Notes || set == LaneSet::Neck)
        add(std::make_unique<ChordsLane>(m_bench));
    auto wires = std::make_unique<WiresLane>(m_bench);
    m_wires = wires.get();
    add(std::move(wires));
    if (set == LaneSet::Neck)
        add(std::make_unique<FingersLane>(m_bench));
    if (set == LaneSet::Neck || set == LaneSet::Strokes)
        add(std::make_unique<StrokesLane>(m_bench));
    invalidate();
}

void StripView::invalidate() {
    m_stale = true;
    update();
}

void StripView::syncScrollBar() {
    const TimeView& time = m_bench.time;
    m_scroll->setPageStep(static_cast<int>(time.span_s() * 1000));
    m_scroll->setRange(0, static_cast<int>(std::max(0.0, time.length_s() - time.span_s()) * 1000));
    m_scroll->setSingleStep(static_cast<int>(time.span_s() * 100));
    m_scroll->setValue(static_cast<int>(time.start_s() * 1000));
}

// What a screen reader says of the chosen note.
void StripView::describe() {
    const Piece& piece = m_bench.document.piece();
    const Note* note = piece.note(m_bench.selection.note());
    const NotePlan* plan = piece.plan(m_bench.selection.note());
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
    area.start_s = m_bench.time.start_s();
    area.pixels_per_s = area.rect.width() / m_bench.time.span_s();
    return area;
}

LaneArea StripView::areaOf(std::size_t lane) const {
    LaneArea area = wholeArea();
    double fixed = 0.0;
    for (const auto& l : m_lanes)
        fixed += l->height();
    const double rest = std::max(120.0, area.rect.height() - fixed);
    double top = 0.0;
    for (std::size_t i = 0; i < lane; ++i)
        top += m_lanes[i]->height() > 0 ? m_lanes[i]->height() : rest;
    const double height = m_lanes[lane]->height() > 0 ? m_lanes[lane]->height() : rest;
    area.rect = QRectF(area.rect.left(), top, area.rect.width(), height);
    return area;
}

std::optional<QPointF> StripView::noteCentre(NoteId note, int ghost_string) const {
    const auto index = m_bench.document.piece().indexOf(note);
    if (!index)
        return {};
    for (std::size_t i = 0; i < m_lanes.size(); ++i)
        if (m_lanes[i].get() == m_wires) {
            const LaneArea area = areaOf(i);
            const int string =
                ghost_string > 0
                    ? ghost_string
                    : m_bench.document.piece().asPlayed().plans[*index].position.value.string;
            return QPointF(area.xOf(m_bench.document.piece().notes[*index].onset_s()) + 8,
                           m_wires->wireY(string, area));
        }
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
    if (m_drag && m_drag->kind == Drag::Kind::Loop)
        paintLoop(
            painter,
            {std::min(m_drag->from_s, m_drag->now_s), std::max(m_drag->from_s, m_drag->now_s)});
    if (m_drag && m_drag->kind == Drag::Kind::Take && m_drag->now_s != m_drag->from_s) {
        painter.setPen(QPen(theme().accent, 1.5, Qt::DashLine));
        for (const double t : {m_drag->from_s, m_drag->now_s})
            painter.drawLine(QPointF(wholeArea().xOf(t), 0),
                             QPointF(wholeArea().xOf(t), height() - kScrollHeight));
    }
    if (m_drag && (m_drag->kind == Drag::Kind::Start || m_drag->kind == Drag::Kind::End)) {
        painter.setPen(QPen(theme().accent, 1.5, Qt::DashLine));
        const double x = wholeArea().xOf(m_drag->now_s);
        painter.drawLine(QPointF(x, 0), QPointF(x, height() - kScrollHeight));
    }
    if (m_bench.document.isOpen())
        paintPlayhead(painter);
    if (hasFocus()) {
        painter.setPen(QPen(theme().accent, 1.0));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

void StripView::paintLanes(QPainter& painter) const {
    if (!m_bench.document.isOpen())
        return;
    if (m_bench.transport.loop())
        paintLoop(painter, *m_bench.transport.loop());
    painter.save();
    painter.setClipRect(wholeArea().rect);
    paintBarLines(painter, m_bench, wholeArea());
    painter.restore();
    for (std::size_t i = 0; i < m_lanes.size(); ++i) {
        const LaneArea area = areaOf(i);
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
    const double x = area.xOf(m_bench.transport.playhead_s());
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
        m_bench.time.zoom(std::pow(1.2, amount / 120.0), wholeArea().timeAt(event->position().x()));
    else
        m_bench.time.pan(-amount / 120.0 * 0.12 * m_bench.time.span_s());
    event->accept();
}

std::optional<std::size_t> StripView::laneAt(QPointF at) const {
    for (std::size_t i = 0; i < m_lanes.size(); ++i)
        if (areaOf(i).rect.contains(at))
            return i;
    return {};
}

// Chooses the take under the mouse; one that is not the first can be dragged.
bool StripView::pressOnTakes(const QMouseEvent& event) {
    const auto lane =
        laneAt({std::max(event.position().x(), wholeArea().rect.left()), event.position().y()});
    if (!m_takes || !lane || m_lanes[*lane].get() != m_takes)
        return false;
    const int take = m_takes->takeAt(event.position().y(), areaOf(*lane));
    if (take < 0)
        return false;
    const bool was_heard = m_bench.transport.take() == static_cast<std::size_t>(take);
    m_bench.transport.setTake(static_cast<std::size_t>(take));
    const double at_s = wholeArea().timeAt(event.position().x());
    if (take > 0 && event.position().x() >= wholeArea().rect.left()) {
        m_drag = Drag{Drag::Kind::Take, at_s, at_s, 0, static_cast<std::size_t>(take), 0};
        return true;
    }
    return !was_heard || event.position().x() < wholeArea().rect.left();
}

// A beat in the count can be dragged.
bool StripView::pressOnCount(const QMouseEvent& event) {
    const auto lane = laneAt(event.position());
    if (!lane || m_lanes[*lane].get() != m_count)
        return false;
    const auto beat = m_count->beatAt(event.position().x(), areaOf(*lane));
    if (!beat)
        return false;
    const double at_s = m_bench.document.piece().timeline.beats_s[static_cast<std::size_t>(*beat)];
    m_drag = Drag{Drag::Kind::Beat, at_s, at_s, 0, 0, *beat};
    return true;
}

QString StripView::words(QPointF at) const {
    const auto lane = laneAt(at);
    return lane && m_bench.document.isOpen() ? m_lanes[*lane]->tellAt(at, areaOf(*lane))
                                             : QString();
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
    if (event->button() == Qt::LeftButton && m_bench.document.isOpen() &&
        (pressOnTakes(*event) || pressOnCount(*event)))
        return;
    const LaneArea whole = wholeArea();
    if (event->button() != Qt::LeftButton || !m_bench.document.isOpen() ||
        event->position().x() < whole.rect.left())
        return;
    const double at_s = std::max(0.0, whole.timeAt(event->position().x()));
    for (std::size_t i = 0; i < m_lanes.size(); ++i) {
        const LaneArea area = areaOf(i);
        if (!area.rect.contains(event->position()) || m_lanes[i].get() != m_wires)
            continue;
        const auto hit = m_wires->hit(event->position(), area);
        if (!hit)
            break;
        if (hit->part == WiresLane::Part::Ghost) {
            m_bench.commands.moveToString(hit->string);
            return;
        }
        if (hit->part == WiresLane::Part::Miss) {
            m_bench.commands.takeMiss(hit->miss);
            return;
        }
        if (hit->part == WiresLane::Part::Start || hit->part == WiresLane::Part::End) {
            m_drag = Drag{hit->part == WiresLane::Part::Start ? Drag::Kind::Start : Drag::Kind::End,
                          at_s,
                          at_s,
                          hit->note,
                          0,
                          0};
            return;
        }
        m_bench.selection.choose(hit->note);
        return;
    }
    m_drag = Drag{Drag::Kind::Seek, at_s, at_s, 0, 0, 0};
    m_bench.transport.seek(at_s);
}

void StripView::mouseMoveEvent(QMouseEvent* event) {
    const double at_s =
        std::clamp(wholeArea().timeAt(event->position().x()), 0.0, m_bench.time.length_s());
    if (!m_drag) {
        bool edge = false;
        for (std::size_t i = 0; m_wires && i < m_lanes.size(); ++i)
            if (m_lanes[i].get() == m_wires)
                if (const auto hit = m_wires->hit(event->position(), areaOf(i)))
                    edge = hit->part == WiresLane::Part::Start || hit->part == WiresLane::Part::End;
        setCursor(edge ? Qt::SizeHorCursor : Qt::ArrowCursor);
        tell(event->position(), event->globalPosition().toPoint());
        return;
    }
    m_drag->now_s = at_s;
    if (m_drag->kind == Drag::Kind::Seek &&
        std::abs(at_s - m_drag->from_s) * wholeArea().pixels_per_s > kDragThreshold)
        m_drag->kind = Drag::Kind::Loop;
    update();
}

void StripView::mouseReleaseEvent(QMouseEvent*) {
    if (!m_drag)
        return;
    const Drag drag = *m_drag;
    m_drag.reset();
    const Note* note = m_bench.document.piece().note(drag.note);
    switch (drag.kind) {
    case Drag::Kind::Seek:
        break;
    case Drag::Kind::Loop:
        m_bench.transport.setLoop(
            TimeRange{std::min(drag.from_s, drag.now_s), std::max(drag.from_s, drag.now_s)});
        break;
    case Drag::Kind::Take:
        if (std::abs(drag.now_s - drag.from_s) * wholeArea().pixels_per_s > 2.0)
            m_bench.takes.shift(drag.take, drag.now_s - drag.from_s);
        break;
    case Drag::Kind::Beat:
        if (std::abs(drag.now_s - drag.from_s) * wholeArea().pixels_per_s > 2.0)
            m_bench.pulse.pinBeat(drag.beat, drag.now_s);
        break;
    case Drag::Kind::Start:
        if (note && drag.now_s != drag.from_s)
            m_bench.commands.setTime(drag.note, {drag.now_s, note->offset_s()});
        break;
    case Drag::Kind::End:
        if (note && drag.now_s != drag.from_s)
            m_bench.commands.setTime(drag.note, {note->onset_s(), drag.now_s});
        break;
    }
    update();
}

void StripView::mouseDoubleClickEvent(QMouseEvent* event) {
    for (std::size_t i = 0; i < m_lanes.size(); ++i) {
        const LaneArea area = areaOf(i);
        if (m_lanes[i].get() == m_wires && area.rect.contains(event->position()) &&
            !m_wires->hit(event->position(), area))
            m_bench.commands.addAt(area.timeAt(event->position().x()),
                                   m_wires->stringAt(event->position().y(), area));
    }
}

} // namespace wirenote::app
