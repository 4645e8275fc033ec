#include "app/strip/sound_lanes.h"

#include "app/document/document.h"
#include "app/strip/take_sounds.h"
#include "app/theme.h"
#include "app/playing/transport.h"
#include "app/text/wording.h"
#include "music/pitch.h"

#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {

// An outline on the time of the piece, through the take's alignment.
void paintOutline(QPainter& painter,
                  const QRectF& rect,
                  const LaneArea& area,
                  const Overview& overview,
                  const TakeAlignment& clock,
                  const QColor& ink) {
    float loudest = 0.05F;
    for (std::size_t i = 0; i < overview.highest.size(); ++i)
        loudest = std::max({loudest, overview.highest[i], -overview.lowest[i]});
    painter.setRenderHint(QPainter::Antialiasing, false);
    painter.setPen(QPen(ink, 1));
    const double middle = rect.center().y();
    const double half = rect.height() / 2.0 - 2.0;
    const auto last = static_cast<double>(overview.lowest.size());
    for (int x = static_cast<int>(rect.left()); x < rect.right(); ++x) {
        const double from = clock.toTake({area.timeAt(x)}).s / overview.step_s;
        const double to = std::max(from + 1.0, clock.toTake({area.timeAt(x + 1)}).s / overview.step_s);
        if (to <= 0.0)
            continue;
        if (from >= last)
            break;
        float low = 0.0F;
        float high = 0.0F;
        for (auto i = static_cast<std::size_t>(std::max(0.0, from));
             i < static_cast<std::size_t>(std::min(last, to));
             ++i) {
            low = std::min(low, overview.lowest[i]);
            high = std::max(high, overview.highest[i]);
        }
        painter.drawLine(QPointF(x, middle - half * high / loudest),
                         QPointF(x, middle - half * low / loudest));
    }
}

const Take* heardTake(const Workbench& bench) {
    const auto& takes = bench.document.piece().takes;
    const std::size_t take = bench.transport.take();
    return take < takes.size() ? &takes[take] : nullptr;
}

} // namespace

// --- outline
// ---------------------------------------------------------------------------------------

QString SoundLane::name() const {
    return QObject::tr("sound");
}

void SoundLane::paint(QPainter& painter, const LaneArea& area) const {
    const Take* take = heardTake(m_bench);
    const Overview* overview = m_bench.sounds.overview(m_bench.transport.take());
    if (take && overview) {
        paintOutline(painter, area.rect, area, *overview, take->alignment, theme().quiet);
        return;
    }
    painter.setPen(theme().quiet);
    painter.setFont(uiFont(8.0));
    painter.drawText(
        area.rect.adjusted(10, 0, 0, 0),
        Qt::AlignVCenter | Qt::AlignLeft,
        take && m_bench.document.media(m_bench.transport.take())
            ? QObject::tr("drawing the sound …")
            : QObject::tr("no recording here: the tab plays by the simulated instrument"));
}

// --- pitches
// -----------------------------------------------------------------------------------------

PitchLane::Range PitchLane::range() const {
    const Instrument& instrument = m_bench.document.piece().instrument;
    return {instrument.lowestMidi() - 2.5, std::min(103.0, instrument.highestMidi() + 12.5)};
}

double PitchLane::yOf(double midi, const LaneArea& area) const {
    const Range r = range();
    return area.rect.bottom() -
           (midi - r.low_midi) / (r.high_midi - r.low_midi) * area.rect.height();
}

double PitchLane::midiAt(double y, const LaneArea& area) const {
    const Range r = range();
    return r.low_midi + (area.rect.bottom() - y) / area.rect.height() * (r.high_midi - r.low_midi);
}

void PitchLane::paintTiles(QPainter& painter, const LaneArea& area, int level, double fade) const {
    const Take& take = *heardTake(m_bench);
    const double span_s = TakeSounds::kTileColumns * TakeSounds::kFinestHop_s * std::exp2(level);
    const PitchAxis axis = TakeSounds::axis(take.reference.a4_hz);
    const double from_s = std::max(0.0, take.alignment.toTake({area.start_s}).s);
    const double to_s = std::min(take.length_s, take.alignment.toTake({area.end_s()}).s);
    // Rows of the picture that are in sight.
    const Range r = range();
    const double top_row =
        (axis.lowest_midi + axis.semitones - 0.5 - r.high_midi) * axis.rows_per_semitone;
    const double rows = (r.high_midi - r.low_midi) * axis.rows_per_semitone;
    painter.setOpacity(fade);
    for (int index = static_cast<int>(from_s / span_s); index * span_s < to_s; ++index) {
        const QImage* image = m_bench.sounds.tile(m_bench.transport.take(), level, index);
        if (!image)
            continue;
        // A tile follows the take's clock in a few pieces, so that a bent time axis stays bent.
        constexpr int kPieces = 4;
        for (int k = 0; k < kPieces; ++k) {
            const double a_s = (index + static_cast<double>(k) / kPieces) * span_s;
            const double b_s = (index + static_cast<double>(k + 1) / kPieces) * span_s;
            const double x0 = area.xOf(take.alignment.toPiece({a_s}).s);
            const double x1 = area.xOf(take.alignment.toPiece({b_s}).s);
            if (x1 < area.rect.left() || x0 > area.rect.right())
                continue;
            painter.drawImage(QRectF(x0, area.rect.top(), x1 - x0, area.rect.height()),
                              *image,
                              QRectF(k * TakeSounds::kTileColumns / static_cast<double>(kPieces),
                                     top_row,
                                     TakeSounds::kTileColumns / static_cast<double>(kPieces),
                                     rows));
        }
    }
    painter.setOpacity(1.0);
}

void PitchLane::paint(QPainter& painter, const LaneArea& area) const {
    const Take* take = heardTake(m_bench);
    if (!take || !m_bench.document.media(m_bench.transport.take()))
        return;
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    const double hop_s = take->alignment.rateAt({area.start_s}) / area.pixels_per_s;
    const int level =
        std::clamp(static_cast<int>(std::lround(std::log2(hop_s / TakeSounds::kFinestHop_s))),
                   0,
                   TakeSounds::kLevels - 1);
    // What a coarser picture has already is shown until the finer one is there.
    if (level + 2 < TakeSounds::kLevels)
        paintTiles(painter, area, level + 2, 1.0);
    paintTiles(painter, area, level, 1.0);
    // Every C, and the open strings.
    painter.setFont(uiFont(7.0));
    const Instrument& instrument = m_bench.document.piece().instrument;
    for (int s = 1; s <= instrument.stringCount(); ++s) {
        const double y = yOf(instrument.midiAt({s, 0}), area);
        QColor line = theme().accent;
        line.setAlpha(70);
        painter.setPen(QPen(line, 1, Qt::DotLine));
        painter.drawLine(QPointF(area.rect.left(), y), QPointF(area.rect.right(), y));
    }
    const ListenSettings& listen = m_bench.transport.listen();
    if (listen.band) {
        QColor veil = theme().bench;
        veil.setAlpha(170);
        const double top = yOf(listen.band->high_midi + 0.5, area);
        const double bottom = yOf(listen.band->low_midi - 0.5, area);
        painter.fillRect(
            QRectF(area.rect.left(), area.rect.top(), area.rect.width(), top - area.rect.top()),
            veil);
        painter.fillRect(
            QRectF(area.rect.left(), bottom, area.rect.width(), area.rect.bottom() - bottom), veil);
    }
}

void PitchLane::paintGutter(QPainter& painter, const LaneArea& area, double gutter) const {
    painter.setFont(uiFont(7.5));
    painter.setPen(theme().quiet);
    const Range r = range();
    for (int midi = static_cast<int>(std::ceil(r.low_midi)); midi <= r.high_midi; ++midi)
        if (midi % 12 == 0) {
            const double y = yOf(midi, area);
            painter.drawText(QRectF(0, y - 8, gutter - 8, 16),
                             Qt::AlignVCenter | Qt::AlignRight,
                             pitchText(m_bench.document.piece(), midi));
            painter.drawLine(QPointF(gutter - 5, y), QPointF(gutter, y));
        }
    painter.drawText(QRectF(8, area.rect.top() + 4, gutter - 10, 14),
                     Qt::AlignVCenter | Qt::AlignLeft,
                     QObject::tr("pitch"));
}

QString PitchLane::tellAt(QPointF at, const LaneArea& area) const {
    const Take* take = heardTake(m_bench);
    if (!take)
        return {};
    const double midi = midiAt(at.y(), area);
    const double nearest = std::round(midi);
    const long cents = std::lround(100.0 * (midi - nearest));
    return QObject::tr("%1 %2%3 cents · %4 Hz · %5")
        .arg(pitchText(m_bench.document.piece(), nearest),
             cents < 0 ? QStringLiteral("−") : QStringLiteral("+"))
        .arg(std::abs(cents))
        .arg(hzFromMidi(midi, take->reference.a4_hz), 0, 'f', 1)
        .arg(timeText(area.timeAt(at.x())));
}

// --- the takes under each other
// ------------------------------------------------------------------------

int TakesLane::height() const {
    return kRow * std::max<int>(1, static_cast<int>(m_bench.document.piece().takes.size()));
}

int TakesLane::takeAt(double y, const LaneArea& area) const {
    const int row = static_cast<int>((y - area.rect.top()) / kRow);
    return row >= 0 && row < static_cast<int>(m_bench.document.piece().takes.size()) ? row : -1;
}

void TakesLane::paint(QPainter& painter, const LaneArea& area) const {
    const auto& takes = m_bench.document.piece().takes;
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
    const Take& take = m_bench.document.piece().takes[i];
    const bool heard = m_bench.transport.take() == i;
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
    if (const Overview* overview = m_bench.sounds.overview(i))
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
    if (!m_bench.document.media(i))
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
    const auto& takes = m_bench.document.piece().takes;
    for (std::size_t i = 0; i < takes.size(); ++i) {
        const bool heard = m_bench.transport.take() == i;
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
    const TakeAlignment& clock =
        m_bench.document.piece().takes[static_cast<std::size_t>(take)].alignment;
    const double t = area.timeAt(at.x());
    return take == 0 ? QObject::tr("take 1 keeps the time of the piece: %1").arg(timeText(t))
                     : QObject::tr("%1 in this take, at %2 of the piece's speed. Drag to move it.")
                           .arg(timeText(clock.toTake({t}).s), percentText(clock.rateAt({t})));
}

} // namespace wirenote::app
