#include "app/strip/sound_lanes.h"

#include "app/commands/take_commands.h"
#include "app/document/document.h"
#include "app/playing/transport.h"
#include "app/strip/outline.h"
#include "app/strip/take_sounds.h"
#include "app/text/playing_wording.h"
#include "app/text/wording.h"
#include "app/theme.h"
#include "music/pitch.h"

#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {

const Take* heardTake(const Document& document, const Transport& transport) {
    const auto& takes = document.piece().takes;
    const std::size_t take = transport.take();
    return take < takes.size() ? &takes[take] : nullptr;
}

constexpr double kGrip = 4.0; // pixels each side of an edge

// Talk, noise …: what a person may want to move the edge of.
bool isNamed(SoundKind kind) {
    return kind != SoundKind::Playing && kind != SoundKind::Silence;
}

} // namespace

SoundLane::SoundLane(
    Document& document, Transport& transport, TakeSounds& sounds, TakeCommands& takes, int height)
    : m_document(document), m_transport(transport), m_sounds(sounds), m_takes(takes),
      m_height(height) {
    follow(transport, &Transport::changed);
    follow(sounds, &TakeSounds::changed);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.takes || what.instrument)
            emit stale({});
    });
}

QString SoundLane::name() const {
    return QObject::tr("sound");
}

void SoundLane::paint(QPainter& painter, const LaneArea& area) const {
    const Take* take = heardTake(m_document, m_transport);
    const Overview* overview = m_sounds.overview(m_transport.take());
    if (take && overview) {
        paintOutline(painter, area.rect, area, *overview, m_transport.clock(), theme().quiet);
        paintTalk(painter, area, *take);
        return;
    }
    painter.setPen(theme().quiet);
    painter.setFont(uiFont(8.0));
    painter.drawText(
        area.rect.adjusted(10, 0, 0, 0),
        Qt::AlignVCenter | Qt::AlignLeft,
        take && m_document.media(m_transport.take())
            ? QObject::tr("drawing the sound …")
            : QObject::tr("no recording here: the tab plays by the simulated instrument"));
}

// Where somebody talks, and nothing was heard for that reason.
void SoundLane::paintTalk(QPainter& painter, const LaneArea& area, const Take& take) const {
    painter.setFont(uiFont(8.5, true));
    const TakeAlignment clock = m_transport.clock();
    for (const SoundSpan& one : take.sound_spans) {
        if (!isNamed(one.kind))
            continue;
        const double x0 = area.xOf(clock.toPiece({one.span.start_s}).s);
        const double x1 = area.xOf(clock.toPiece({one.span.end_s}).s);
        const QRectF there =
            QRectF(x0, area.rect.top(), x1 - x0, area.rect.height()).intersected(area.rect);
        if (there.isEmpty())
            continue;
        QColor veil = theme().paper;
        veil.setAlphaF(0.72);
        painter.fillRect(there, veil);
        painter.setPen(QPen(theme().quiet, 1.0, Qt::DotLine));
        painter.drawRect(there.adjusted(0.5, 0.5, -0.5, -0.5));
        painter.setPen(theme().ink);
        painter.drawText(there, Qt::AlignCenter, soundKindText(one.kind));
    }
}

// The edge between two spans under the mouse, in seconds of the take.
std::optional<double> SoundLane::edgeAt(QPointF at, const LaneArea& area) const {
    const Take* take = heardTake(m_document, m_transport);
    if (!take || !area.rect.contains(at))
        return {};
    const TakeAlignment clock = m_transport.clock();
    for (std::size_t i = 1; i < take->sound_spans.size(); ++i) {
        if (!isNamed(take->sound_spans[i - 1].kind) && !isNamed(take->sound_spans[i].kind))
            continue;
        const double edge_s = take->sound_spans[i].span.start_s;
        if (std::abs(area.xOf(clock.toPiece({edge_s}).s) - at.x()) <= kGrip)
            return edge_s;
    }
    return {};
}

Press SoundLane::press(QPointF at, const LaneArea& area, Qt::KeyboardModifiers held) {
    const auto edge_s = edgeAt(at, area);
    if (!edge_s)
        return Lane::press(at, area, held);
    return {true,
            [this, edge = *edge_s, take = m_transport.take(), clock = m_transport.clock()](
                double from_s, double to_s) {
                m_takes.moveEdge(
                    take, edge, edge + clock.toTake({to_s}).s - clock.toTake({from_s}).s);
            },
            true};
}

Qt::CursorShape SoundLane::cursorAt(QPointF at, const LaneArea& area) const {
    return edgeAt(at, area) ? Qt::SizeHorCursor : Lane::cursorAt(at, area);
}

QString SoundLane::tellAt(QPointF at, const LaneArea& area) const {
    const Take* take = heardTake(m_document, m_transport);
    if (!take || !area.rect.contains(at))
        return {};
    const double at_s = m_transport.clock().toTake({area.timeAt(at.x())}).s;
    for (const SoundSpan& one : take->sound_spans)
        if (one.kind == SoundKind::Talk && one.span.contains(at_s))
            return QObject::tr("Talk (%1): no notes are looked for here. Drag over it and press E "
                               "to hear them all the same, or Ctrl+Shift+T when it is playing.")
                .arg(percentText(one.probability));
    return {};
}

PitchLane::PitchLane(Document& document, Transport& transport, TakeSounds& sounds, int height)
    : m_document(document), m_transport(transport), m_sounds(sounds), m_height(height) {
    follow(transport, &Transport::changed);
    follow(sounds, &TakeSounds::changed);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.takes || what.instrument)
            emit stale({});
    });
}

PitchLane::Range PitchLane::range() const {
    const Instrument& instrument = m_document.piece().instrument;
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
    const Take& take = *heardTake(m_document, m_transport);
    const double span_s = TakeSounds::kTileColumns * TakeSounds::kFinestHop_s * std::exp2(level);
    const PitchAxis axis = TakeSounds::axis(take.reference.a4_hz);
    const TakeAlignment clock = m_transport.clock();
    const double from_s = std::max(0.0, clock.toTake({area.start_s}).s);
    const double to_s = std::min(take.length_s, clock.toTake({area.end_s()}).s);
    // Rows of the picture that are in sight.
    const Range r = range();
    const double top_row =
        (axis.lowest_midi + axis.semitones - 0.5 - r.high_midi) * axis.rows_per_semitone;
    const double rows = (r.high_midi - r.low_midi) * axis.rows_per_semitone;
    painter.setOpacity(fade);
    for (int index = static_cast<int>(from_s / span_s); index * span_s < to_s; ++index) {
        const QImage* image = m_sounds.tile(m_transport.take(), level, index);
        if (!image)
            continue;
        // A tile follows the take's clock in a few pieces, so that a bent time axis stays bent.
        constexpr int kPieces = 4;
        for (int k = 0; k < kPieces; ++k) {
            const double a_s = (index + static_cast<double>(k) / kPieces) * span_s;
            const double b_s = (index + static_cast<double>(k + 1) / kPieces) * span_s;
            const double x0 = area.xOf(clock.toPiece({a_s}).s);
            const double x1 = area.xOf(clock.toPiece({b_s}).s);
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
    const Take* take = heardTake(m_document, m_transport);
    if (!take || !m_document.media(m_transport.take()))
        return;
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    const double hop_s = m_transport.clock().rateAt({area.start_s}) / area.pixels_per_s;
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
    const Instrument& instrument = m_document.piece().instrument;
    for (int s = 1; s <= instrument.stringCount(); ++s) {
        const double y = yOf(instrument.midiAt({s, 0}), area);
        QColor line = theme().accent;
        line.setAlpha(70);
        painter.setPen(QPen(line, 1, Qt::DotLine));
        painter.drawLine(QPointF(area.rect.left(), y), QPointF(area.rect.right(), y));
    }
    const ListenSettings& listen = m_transport.listen();
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
                             pitchText(m_document.piece(), midi));
            painter.drawLine(QPointF(gutter - 5, y), QPointF(gutter, y));
        }
    painter.drawText(QRectF(8, area.rect.top() + 4, gutter - 10, 14),
                     Qt::AlignVCenter | Qt::AlignLeft,
                     QObject::tr("pitch"));
}

QString PitchLane::tellAt(QPointF at, const LaneArea& area) const {
    const Take* take = heardTake(m_document, m_transport);
    if (!take)
        return {};
    const double midi = midiAt(at.y(), area);
    const double nearest = std::round(midi);
    const long cents = std::lround(100.0 * (midi - nearest));
    const QString off = countText(static_cast<int>(std::abs(cents)),
                                  QT_TRANSLATE_NOOP("wording", "%1 cent"),
                                  QT_TRANSLATE_NOOP("wording", "%1 cents"));
    return QObject::tr("%1 %2%3 · %4 Hz · %5")
        .arg(pitchText(m_document.piece(), nearest),
             cents < 0 ? QStringLiteral("−") : QStringLiteral("+"),
             off)
        .arg(hzFromMidi(midi, take->reference.a4_hz), 0, 'f', 1)
        .arg(timeText(area.timeAt(at.x())));
}

} // namespace wirenote::app
