#include "app/benches/strokes/hand_lane.h"

#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/text/pluck_wording.h"
#include "app/theme.h"
#include "piece/timeline_map.h"

#include <QPainterPath>
#include <QPolygonF>
#include <algorithm>
#include <array>
#include <cmath>

namespace wirenote::app {
namespace {

constexpr double kCells = 22.0; // pixels
constexpr double kDot = 3.0;
constexpr double kAtOnce = 7.0; // from the middle of a mark to the pointer

constexpr std::array kFingers = {Stroke::C, Stroke::A, Stroke::M, Stroke::I, Stroke::P};

// The points that a stretch of time shows, and one more on each side.
template <class Point>
std::pair<std::size_t, std::size_t> inSight(const std::vector<Point>& points,
                                            const LaneArea& area) {
    const auto at = [&points](double time_s) {
        return static_cast<std::size_t>(
            std::ranges::lower_bound(points, time_s, {}, &Point::time_s) - points.begin());
    };
    const std::size_t from = at(area.start_s - 0.3);
    const std::size_t to = std::min(points.size(), at(area.end_s() + 0.3) + 1);
    return {from > 0 ? from - 1 : 0, to};
}

} // namespace

HandLane::HandLane(Document& document, Selection& selection)
    : m_document(document), m_selection(selection) {
    follow(selection, &Selection::changed);
    connect(&document, &Document::opened, this, [this] { m_fresh = false; });
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (!what.notes && !what.plans && !what.timeline)
            return;
        m_fresh = false;
        emit stale({});
    });
}

QString HandLane::name() const {
    return QObject::tr("hand");
}

bool HandLane::picked() const {
    return picture().fingers.size() <= picture().pick.size();
}

const HandPicture& HandLane::picture() const {
    if (!m_fresh)
        m_picture = handPicture(m_document.piece());
    m_fresh = true;
    return m_picture;
}

HandLane::Rooms HandLane::roomsIn(const QRectF& rect) const {
    const double top = rect.top() + kCells;
    const double middle = top + 0.42 * (rect.bottom() - top);
    return {{rect.left(), rect.top() + 2, rect.width(), kCells - 4},
            {rect.left(), top + 6, rect.width(), middle - top - 12},
            {rect.left(), middle + 4, rect.width(), rect.bottom() - middle - 10}};
}

double HandLane::stringY(const QRectF& room, int string) const {
    const int strings = std::max(2, m_document.piece().instrument.stringCount());
    return room.top() + room.height() * (string - 1) / (strings - 1);
}

double HandLane::fingerY(const QRectF& room, Stroke finger) {
    const auto row = std::ranges::find(kFingers, finger) - kFingers.begin();
    return room.top() + room.height() * (static_cast<double>(row) + 0.5) / kFingers.size();
}

void HandLane::paint(QPainter& painter, const LaneArea& area) const {
    painter.save();
    painter.setClipRect(area.rect);
    painter.setRenderHint(QPainter::Antialiasing);
    const Rooms rooms = roomsIn(area.rect);
    paintCells(painter, area, rooms.cells);
    if (picked()) {
        paintMotion(painter, area, rooms.motion);
        paintPick(painter, area, rooms.strings);
    } else {
        paintFingers(painter, area, rooms.motion.united(rooms.strings));
    }
    painter.restore();
}

void HandLane::paintGutter(QPainter& painter, const LaneArea& area, double gutter) const {
    Lane::paintGutter(painter, area, gutter);
    const Rooms rooms = roomsIn(area.rect);
    painter.setFont(uiFont(8.0));
    painter.setPen(theme().quiet);
    const auto write = [&](double y, const QString& text) {
        painter.drawText(QRectF(area.rect.left() - gutter, y - 8, gutter - 6, 16),
                         Qt::AlignRight | Qt::AlignVCenter,
                         text);
    };
    if (!picked()) {
        for (const Stroke finger : kFingers)
            write(fingerY(rooms.motion.united(rooms.strings), finger), strokeLetter(finger));
        return;
    }
    for (int string = 1; string <= m_document.piece().instrument.stringCount(); ++string)
        write(stringY(rooms.strings, string), QString::number(string));
}

// A bracket over the bars, the pattern in it, and a tick where a bar is struck otherwise.
void HandLane::paintCells(QPainter& painter, const LaneArea& area, const QRectF& room) const {
    const TimelineMap map(m_document.piece().timeline);
    const auto xOfBar = [&](int bar) {
        return area.xOf(map.timeAt(map.grid().bar(bar).start.toDouble()));
    };
    painter.setFont(uiFont(8.5));
    for (const Cell& cell : picture().cells) {
        const double from = xOfBar(cell.first_bar);
        const double to = xOfBar(cell.last_bar + 1) - 4.0;
        if (to < area.rect.left() || from > area.rect.right())
            continue;
        painter.setPen(QPen(theme().quiet, 1.0));
        painter.drawPolyline(QPolygonF{{from, room.bottom()},
                                       {from, room.top() + 3},
                                       {to, room.top() + 3},
                                       {to, room.bottom()}});
        for (const int bar : cell.exceptions)
            painter.fillRect(QRectF(xOfBar(bar), room.top() + 1, xOfBar(bar + 1) - xOfBar(bar), 4),
                             theme().accent);
        const double left = std::max(from, area.rect.left()) + 6.0;
        const QString text = painter.fontMetrics().elidedText(
            cellText(cell), Qt::ElideRight, static_cast<int>(std::max(0.0, to - left - 6.0)));
        painter.setPen(theme().ink);
        painter.drawText(QRectF(left, room.top() + 4, to - left, room.height() - 4),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         text);
    }
}

// Down is down. The strings are met half-way; what sounds has a full mark, what scratches a cross,
// what passes in silence a ring, with a point in it where a film shows it.
void HandLane::paintMotion(QPainter& painter, const LaneArea& area, const QRectF& room) const {
    const auto& turns = picture().turns;
    const auto [from, to] = inSight(turns, area);
    const double middle = room.center().y();
    constexpr double kRest_s = 0.9;
    const auto outer = [&room](bool down) { return down ? room.bottom() : room.top(); };
    const auto pull = [&](bool down) { return 2.0 * outer(down) - middle; }; // of a curve to there
    QPainterPath path;
    for (std::size_t i = from; i < to; ++i) {
        const QPointF here(area.xOf(turns[i].time_s), middle);
        const bool goes_on = i > from && turns[i].time_s - turns[i - 1].time_s < kRest_s &&
                             turns[i].down != turns[i - 1].down;
        const double reach = 14.0; // of a stroke that stands alone
        if (goes_on) {
            const double half = (area.xOf(turns[i - 1].time_s) + here.x()) / 2.0;
            path.quadTo(QPointF(half, pull(turns[i - 1].down)), here);
        } else {
            path.moveTo(here.x() - reach, outer(!turns[i].down));
            path.lineTo(here);
        }
        const bool last = i + 1 == to || turns[i + 1].time_s - turns[i].time_s >= kRest_s ||
                          turns[i + 1].down == turns[i].down;
        if (last)
            path.lineTo(here.x() + reach, outer(turns[i].down));
    }
    painter.setPen(QPen(theme().line, 1.0));
    painter.drawLine(QPointF(area.rect.left(), middle), QPointF(area.rect.right(), middle));
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(theme().quiet, 1.4));
    painter.drawPath(path);
    for (std::size_t i = from; i < to; ++i) {
        const QPointF here(area.xOf(turns[i].time_s), middle);
        const QColor colour = m_selection.isChosen(turns[i].note) && turns[i].note != 0
                                  ? theme().accent
                                  : theme().ink;
        painter.setPen(QPen(colour, 1.3));
        painter.setBrush(turns[i].note == 0 ? theme().paper : colour);
        if (turns[i].ghost) {
            painter.drawLine(here + QPointF(-kDot, -kDot), here + QPointF(kDot, kDot));
            painter.drawLine(here + QPointF(-kDot, kDot), here + QPointF(kDot, -kDot));
        } else {
            painter.drawEllipse(here, kDot, kDot);
        }
        if (turns[i].seen)
            painter.drawPoint(here);
    }
}

namespace {

void paintWay(QPainter& painter, QPointF before, QPointF first, const PickPoint& point) {
    painter.setPen(QPen(theme().quiet, point.swept ? 2.4 : 1.0));
    painter.drawLine(before, first);
    if (!point.flips)
        return;
    const QPointF at = (before + first) / 2.0;
    const double up = point.slant == Slant::Upward ? -1.0 : 1.0;
    painter.setPen(Qt::NoPen);
    painter.setBrush(theme().accent);
    painter.drawPolygon(
        QPolygonF{at + QPointF(-4, -3 * up), at + QPointF(4, -3 * up), at + QPointF(0, 4 * up)});
}

} // namespace

// A line from string to string; where the pick must be slanted otherwise to get there, a wedge.
void HandLane::paintPick(QPainter& painter, const LaneArea& area, const QRectF& room) const {
    painter.setPen(QPen(theme().line, 1.0));
    for (int string = 1; string <= m_document.piece().instrument.stringCount(); ++string)
        painter.drawLine(QPointF(area.rect.left(), stringY(room, string)),
                         QPointF(area.rect.right(), stringY(room, string)));
    const auto& pick = picture().pick;
    const auto [from, to] = inSight(pick, area);
    const auto endOf = [&](const PickPoint& point) {
        constexpr double kLean = 5.0; // a strum takes time
        return QPointF(area.xOf(point.time_s) + (point.first == point.last ? 0.0 : kLean),
                       stringY(room, point.last));
    };
    for (std::size_t i = from; i < to; ++i) {
        const PickPoint& point = pick[i];
        if (point.first == 0)
            continue;
        const QPointF first(area.xOf(point.time_s), stringY(room, point.first));
        const QPointF last = endOf(point);
        if (i > 0 && point.joined && pick[i - 1].last > 0)
            paintWay(painter, endOf(pick[i - 1]), first, point);
        const bool chosen = m_selection.isChosen(point.note);
        painter.setPen(QPen(chosen ? theme().accent : theme().ink, 1.6));
        painter.setBrush(chosen ? theme().accent : theme().ink);
        if (point.first != point.last)
            painter.drawLine(first, last);
        else
            painter.drawEllipse(first, 2.2, 2.2);
    }
}

void HandLane::paintFingers(QPainter& painter, const LaneArea& area, const QRectF& room) const {
    painter.setPen(QPen(theme().line, 1.0));
    for (const Stroke finger : kFingers)
        painter.drawLine(QPointF(area.rect.left(), fingerY(room, finger)),
                         QPointF(area.rect.right(), fingerY(room, finger)));
    const auto& fingers = picture().fingers;
    const auto [from, to] = inSight(fingers, area);
    for (std::size_t i = from; i < to; ++i) {
        const FingerPoint& point = fingers[i];
        const QPointF at(area.xOf(point.time_s), fingerY(room, point.finger));
        const QColor colour = m_selection.isChosen(point.note) ? theme().accent : theme().ink;
        painter.setPen(Qt::NoPen);
        painter.setBrush(colour);
        painter.drawEllipse(at, kDot + 0.6, kDot + 0.6);
    }
}

QString HandLane::tellAt(QPointF at, const LaneArea& area) const {
    const Rooms rooms = roomsIn(area.rect);
    if (!picked())
        return {};
    for (const HandTurn& turn : picture().turns)
        if (rooms.motion.contains(at) && std::abs(area.xOf(turn.time_s) - at.x()) < kAtOnce)
            return turnText(turn);
    for (const PickPoint& point : picture().pick)
        if (rooms.strings.contains(at) && point.slant != Slant::Either &&
            std::abs(area.xOf(point.time_s) - at.x()) < kAtOnce)
            return slantText(point.slant, point.flips);
    return {};
}

std::optional<NoteId> HandLane::noteAt(QPointF at, const LaneArea& area) const {
    const Rooms rooms = roomsIn(area.rect);
    const auto near = [&](const auto& points, const auto& fits) -> std::optional<NoteId> {
        for (const auto& point : points)
            if (point.note != 0 && std::abs(area.xOf(point.time_s) - at.x()) < kAtOnce &&
                fits(point))
                return point.note;
        return std::nullopt;
    };
    if (picked())
        return rooms.motion.contains(at) || rooms.strings.contains(at)
                   ? near(picture().pick, [](const PickPoint&) { return true; })
                   : std::nullopt;
    const QRectF room = rooms.motion.united(rooms.strings);
    return near(picture().fingers, [&](const FingerPoint& point) {
        return std::abs(fingerY(room, point.finger) - at.y()) < kAtOnce;
    });
}

} // namespace wirenote::app
