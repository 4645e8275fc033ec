#include "app/benches/takes/takes_lane.h"

#include "app/commands/take_commands.h"
#include "app/document/document.h"
#include "app/playing/transport.h"
#include "app/strip/outline.h"
#include "app/strip/take_sounds.h"
#include "app/text/playing_wording.h"
#include "app/text/wording.h"
#include "app/theme.h"

#include <algorithm>
#include <array>

namespace wirenote::app {
namespace {
constexpr double kMark = 11.0; // pixels
}

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
    if (take.alignment.stretches.size() > 1) {
        paintStretches(painter, area, i);
        return;
    }
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
    paintShown(painter, area, row, take);
    paintName(painter, area, row, i);
}

// What is played once more, slowly or in parts, along the lower edge.
void TakesLane::paintShown(QPainter& painter,
                           const LaneArea& area,
                           const QRectF& row,
                           const Take& take) const {
    const bool leads = take.alignment.sameClock();
    painter.setFont(uiFont(7.0));
    for (const SoundSpan& one : take.sound_spans) {
        if (one.kind == SoundKind::Playing || one.kind == SoundKind::Silence)
            continue;
        const double from = area.xOf(take.alignment.toPiece({one.span.start_s}).s);
        const double to = area.xOf(take.alignment.toPiece({one.span.end_s}).s);
        const QRectF stretch = QRectF(from, row.top() + 13, to - from, row.height() - 14) & row;
        if (stretch.width() < 2.0)
            continue;
        QColor veil = theme().paper;
        veil.setAlpha(170);
        painter.fillRect(stretch, veil);
        painter.setPen(theme().quiet);
        painter.drawText(stretch.adjusted(4, 0, 0, 0),
                         Qt::AlignVCenter | Qt::AlignLeft,
                         soundKindText(one.kind));
    }
    for (const Demonstration& one : take.demonstrations) {
        if (one.isItself() || (!leads && one.inPiece()))
            continue;
        const double from = area.xOf(take.alignment.toPiece({one.span.start_s}).s);
        const double to = area.xOf(take.alignment.toPiece({one.span.end_s}).s);
        const QRectF mark = QRectF(from, row.bottom() - kMark, to - from, kMark) & row;
        if (mark.width() < 2.0)
            continue;
        QColor fill = one.learn.value ? theme().line : theme().accent;
        fill.setAlpha(one.learn.value ? 150 : 90);
        painter.fillRect(mark, fill);
        painter.setPen(theme().ink);
        painter.drawText(mark.adjusted(3, 0, -2, 0),
                         Qt::AlignVCenter | Qt::AlignLeft,
                         painter.fontMetrics().elidedText(shownText(m_document.piece(), one),
                                                          Qt::ElideRight,
                                                          static_cast<int>(mark.width()) - 4));
    }
}

// A take that visits the piece several times: each visit at its place, one under the other.
void TakesLane::paintStretches(QPainter& painter, const LaneArea& area, std::size_t i) const {
    const Take& take = m_document.piece().takes[i];
    const bool heard = m_transport.take() == i;
    const double top = area.rect.top() + static_cast<double>(i) * kRow + 16;
    constexpr int kLevels = 3;
    const double height = (kRow - 18.0) / kLevels;
    std::array<double, kLevels> free_from{};
    free_from.fill(area.rect.left() - 4.0);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setFont(uiFont(6.5));
    for (std::size_t d = 0; d < take.demonstrations.size(); ++d) {
        const Demonstration& one = take.demonstrations[d];
        if (!one.inPiece())
            continue;
        const double from = area.xOf(one.ofPiece().start_s);
        const double to = area.xOf(one.ofPiece().end_s);
        if (to < area.rect.left() || from > area.rect.right())
            continue;
        auto level = static_cast<std::size_t>(
            std::ranges::find_if(free_from, [from](double x) { return x <= from + 1.0; }) -
            free_from.begin());
        level = std::min<std::size_t>(level, kLevels - 1);
        free_from[level] = to;
        const QRectF box(
            from, top + height * static_cast<double>(level), std::max(3.0, to - from), height - 1);
        const bool chosen = heard && m_transport.demonstration() == d;
        painter.setPen(QPen(chosen ? theme().accent : theme().line, chosen ? 1.6 : 1.0));
        QColor fill = one.learn.value ? theme().panel : theme().accent;
        fill.setAlpha(one.learn.value ? 255 : 70);
        painter.setBrush(fill);
        painter.drawRoundedRect(box, 2, 2);
        painter.setPen(theme().ink);
        if (box.width() > 40)
            painter.drawText(box.adjusted(4, -1, 0, 0),
                             Qt::AlignVCenter | Qt::AlignLeft,
                             timeText(one.span.start_s) + QStringLiteral(" · ") +
                                 tempoRatioText(one.tempoRatio()));
    }
    paintName(painter, area, QRectF(area.rect.left(), top - 15, area.rect.width(), kRow), i);
}

void TakesLane::paintName(QPainter& painter,
                          const LaneArea& area,
                          const QRectF& row,
                          std::size_t i) const {
    const Take& take = m_document.piece().takes[i];
    const bool heard = m_transport.take() == i;
    QStringList words{QString::fromStdString(take.name), takeKindText(take.kind)};
    if (!m_document.media(i))
        words << QObject::tr("recording missing");
    if (take.has_picture)
        words << QObject::tr("with picture");
    if (i > 0)
        words
            << (take.alignment.sameClock() ? QObject::tr("not lined up")
                : take.alignment.stretches.size() > 1
                    ? QObject::tr("plays %1 places of it").arg(take.alignment.stretches.size())
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
