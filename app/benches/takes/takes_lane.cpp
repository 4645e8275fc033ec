#include "app/benches/takes/takes_lane.h"

#include "app/commands/take_commands.h"
#include "app/document/document.h"
#include "app/playing/transport.h"
#include "app/strip/outline.h"
#include "app/strip/take_sounds.h"
#include "app/text/wording.h"
#include "app/theme.h"

#include <algorithm>

namespace wirenote::app {

TakesLane::TakesLane(Document& document,
                     Transport& transport,
                     TakeSounds& sounds,
                     TakeCommands& commands)
    : m_document(document), m_transport(transport), m_sounds(sounds), m_commands(commands) {
    follow(transport, &Transport::changed);
    follow(sounds, &TakeSounds::changed);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.takes)
            emit stale({});
    });
}

// Chooses the take under the mouse; one that is not the first can be dragged.
Press TakesLane::press(QPointF at, const LaneArea& area, Qt::KeyboardModifiers) {
    const int row = takeAt(at.y(), area);
    if (row < 0)
        return {};
    const auto take = static_cast<std::size_t>(row);
    const bool was_heard = m_transport.take() == take;
    m_transport.setTake(take);
    const bool in_gutter = at.x() < area.rect.left();
    if (take > 0 && !in_gutter)
        return {true,
                [this, take](double from_s, double to_s) { m_commands.shift(take, to_s - from_s); },
                true};
    return {!was_heard || in_gutter, {}, false};
}

int TakesLane::height() const {
    return kRow * std::max<int>(1, static_cast<int>(m_document.piece().takes.size()));
}

int TakesLane::takeAt(double y, const LaneArea& area) const {
    const int row = static_cast<int>((y - area.rect.top()) / kRow);
    return row >= 0 && row < static_cast<int>(m_document.piece().takes.size()) ? row : -1;
}

void TakesLane::paint(QPainter& painter, const LaneArea& area) const {
    const auto& takes = m_document.piece().takes;
    for (std::size_t i = 0; i < takes.size(); ++i)
        paintTake(painter, area, i);
    if (takes.empty()) {
        painter.setPen(theme().quiet);
        painter.setFont(uiFont(8.5));
        painter.drawText(area.rect.adjusted(10, 0, 0, 0),
                         Qt::AlignVCenter | Qt::AlignLeft,
                         QObject::tr("No recording yet: drop one here."));
    }
}

void TakesLane::paintTake(QPainter& painter, const LaneArea& area, std::size_t i) const {
    const Take& take = m_document.piece().takes[i];
    const bool heard = m_transport.take() == i;
    const double x0 = std::max(area.rect.left() - 4.0, area.xOf(take.alignment.toPiece({0.0}).s));
    const double x1 =
        std::min(area.rect.right() + 4.0, area.xOf(take.alignment.toPiece({take.length_s}).s));
    const QRectF row(x0, area.rect.top() + static_cast<double>(i) * kRow + 3, x1 - x0, kRow - 6);
    if (row.width() <= 0.0)
        return;
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(heard ? theme().accent : theme().line, heard ? 1.6 : 1.0));
    painter.setBrush(theme().panel);
    painter.drawRoundedRect(row, 4, 4);
    if (const Overview* overview = m_sounds.overview(i))
        paintOutline(painter,
                     row.adjusted(1, 12, -1, -1),
                     area,
                     *overview,
                     take.alignment,
                     heard ? theme().ink : theme().quiet);
    if (!take.trim.empty()) { // what is left out is veiled
        QColor veil = theme().paper;
        veil.setAlpha(190);
        const double from = area.xOf(take.alignment.toPiece({take.trim.start_s}).s);
        const double to = area.xOf(take.alignment.toPiece({take.trim.end_s}).s);
        painter.fillRect(
            QRectF(row.left(), row.top(), std::max(0.0, from - row.left()), row.height()), veil);
        painter.fillRect(QRectF(to, row.top(), std::max(0.0, row.right() - to), row.height()),
                         veil);
    }
    QStringList words{QString::fromStdString(take.name), takeKindText(take.kind)};
    if (!m_document.media(i))
        words << QObject::tr("recording missing");
    if (take.has_picture)
        words << QObject::tr("with picture");
    if (i > 0)
        words
            << (take.alignment.sameClock() ? QObject::tr("not lined up")
                : take.alignment.basis == Basis::Set
                    ? QObject::tr("lined up by you")
                    : QObject::tr("lined up, %1 sure").arg(percentText(take.alignment.certainty)));
    painter.setFont(uiFont(7.5, heard));
    painter.setPen(heard ? theme().accent : theme().ink);
    painter.drawText(
        QRectF(std::max(row.left(), area.rect.left()) + 6, row.top() + 1, row.width() - 8, 12),
        Qt::AlignLeft | Qt::AlignVCenter,
        words.join(QStringLiteral(" · ")));
}

void TakesLane::paintGutter(QPainter& painter, const LaneArea& area, double gutter) const {
    const auto& takes = m_document.piece().takes;
    for (std::size_t i = 0; i < takes.size(); ++i) {
        const bool heard = m_transport.take() == i;
        painter.setFont(uiFont(9.0, heard));
        painter.setPen(heard ? theme().accent : theme().quiet);
        painter.drawText(
            QRectF(8, area.rect.top() + static_cast<double>(i) * kRow, gutter - 10, kRow),
            Qt::AlignVCenter | Qt::AlignLeft,
            QObject::tr("take %1").arg(i + 1));
    }
}

QString TakesLane::tellAt(QPointF at, const LaneArea& area) const {
    const int take = takeAt(at.y(), area);
    if (take < 0)
        return {};
    const TakeAlignment& clock = m_document.piece().takes[static_cast<std::size_t>(take)].alignment;
    const double t = area.timeAt(at.x());
    return take == 0 ? QObject::tr("take 1 keeps the time of the piece: %1").arg(timeText(t))
                     : QObject::tr("%1 in this take, at %2 of the piece's speed. Drag to move it.")
                           .arg(timeText(clock.toTake({t}).s), percentText(clock.rateAt({t})));
}

} // namespace wirenote::app
