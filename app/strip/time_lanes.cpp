#include "app/strip/time_lanes.h"

#include "app/document.h"
#include "app/theme.h"
#include "app/wording.h"
#include "score/harmony.h"

#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {

// Calls visit(index in the bar, time, bar number) for every beat in sight.
template <class Visit> void forBeats(const Timeline& timeline, const LaneArea& area, Visit visit) {
    const BarGrid grid(timeline);
    for (std::size_t i = 0; i < timeline.beats_s.size(); ++i) {
        const double t = timeline.beats_s[i];
        if (t < area.start_s - 1.0 || t > area.end_s() + 1.0)
            continue;
        const auto place = grid.at(static_cast<int>(i));
        visit(place.beat, t, place.bar, i);
    }
}

} // namespace

QString FormLane::name() const {
    return QObject::tr("form");
}

void FormLane::paint(QPainter& painter, const LaneArea& area) const {
    const Timeline& timeline = m_bench.document.piece().timeline;
    painter.setFont(uiFont(7.5));
    // Sections where there are some; otherwise the bar numbers alone tell the form.
    for (const Section& section : timeline.sections) {
        const QRectF box(area.xOf(section.span.start_s),
                         area.rect.top() + 4,
                         (section.span.end_s - section.span.start_s) * area.pixels_per_s - 3,
                         area.rect.height() - 8);
        painter.setPen(theme().line);
        painter.setBrush(theme().panel);
        painter.drawRoundedRect(box, 3, 3);
        painter.setPen(theme().ink);
        painter.drawText(box.adjusted(6, 0, 0, 0),
                         Qt::AlignVCenter | Qt::AlignLeft,
                         QString::fromStdString(section.label));
    }
    painter.setPen(theme().quiet);
    double last_x = -1e9;
    forBeats(timeline, area, [&](int in_bar, double t, int bar, std::size_t) {
        const double x = area.xOf(t);
        if (in_bar != 0 || x - last_x < 44 || x < area.rect.left() - 30)
            return;
        last_x = x;
        painter.drawText(QRectF(x + 4, area.rect.top(), 60, area.rect.height()),
                         Qt::AlignVCenter | Qt::AlignLeft,
                         QObject::tr("bar %1").arg(bar));
    });
}

QString CountLane::name() const {
    return QObject::tr("count");
}

void CountLane::paint(QPainter& painter, const LaneArea& area) const {
    const Timeline& timeline = m_bench.document.piece().timeline;
    const auto& beats = timeline.beats_s;
    forBeats(timeline, area, [&](int in_bar, double t, int, std::size_t i) {
        const double next =
            i + 1 < beats.size() ? beats[i + 1] : t + (i > 0 ? t - beats[i - 1] : 0.5);
        const double width = (next - t) * area.pixels_per_s;
        if (width < 9.0 && in_bar != 0)
            return;
        painter.setFont(uiFont(in_bar == 0 ? 8.5 : 8.0, in_bar == 0));
        painter.setPen(theme().ink);
        painter.drawText(QRectF(area.xOf(t) - 20, area.rect.top(), 40, area.rect.height()),
                         Qt::AlignCenter,
                         QString::number(in_bar + 1));
        if (width < 40.0)
            return;
        painter.setFont(uiFont(8.0));
        painter.setPen(theme().quiet);
        const int parts = timeline.metre.compound() ? 3 : 2;
        for (int k = 1; k < parts; ++k)
            painter.drawText(QRectF(area.xOf(t + k * (next - t) / parts) - 20,
                                    area.rect.top(),
                                    40,
                                    area.rect.height()),
                             Qt::AlignCenter,
                             parts == 3 ? QStringLiteral("·") : QStringLiteral("&"));
    });
}

QString ChordsLane::name() const {
    return QObject::tr("chords");
}

void ChordsLane::paint(QPainter& painter, const LaneArea& area) const {
    const Piece& piece = m_bench.document.piece();
    painter.setFont(uiFont(9.5, true));
    painter.setPen(theme().ink);
    double last_x = -1e9;
    for (const ChordSpan& span : chordsOf(piece)) {
        const double x = area.xOf(span.span.start_s);
        const QString text = QString::fromStdString(chordText(span.chord, piece.key.spelling()));
        const double width = painter.fontMetrics().horizontalAdvance(text) + 6.0;
        if (x < area.rect.left() - width || x > area.rect.right() || x < last_x)
            continue;
        last_x = x + width;
        painter.drawText(QRectF(x, area.rect.top(), width, area.rect.height()),
                         Qt::AlignVCenter | Qt::AlignLeft,
                         text);
    }
}

QString ChordsLane::tellAt(QPointF at, const LaneArea& area) const {
    const Piece& piece = m_bench.document.piece();
    const double at_s = area.timeAt(at.x());
    for (const ChordSpan& span : chordsOf(piece)) {
        if (!span.span.contains(at_s))
            continue;
        const QString name = QString::fromStdString(chordText(span.chord, piece.key.spelling()));
        QStringList absent;
        for (const int pitch : span.chord.absent) {
            QString letter = pitchText(piece, 60 + pitch);
            letter.chop(1); // the octave
            absent << letter;
        }
        return absent.isEmpty() ? name : QObject::tr("%1 without %2").arg(name, absent.join(", "));
    }
    return {};
}

void paintBarLines(QPainter& painter, const Workbench& bench, const LaneArea& area) {
    const Timeline& timeline = bench.document.piece().timeline;
    const double beat_px =
        timeline.tempo_bpm > 0.0 ? 60.0 / timeline.tempo_bpm * area.pixels_per_s : 0.0;
    forBeats(timeline, area, [&](int in_bar, double t, int, std::size_t) {
        const double x = std::round(area.xOf(t)) + 0.5;
        if (x < area.rect.left() || x > area.rect.right() || (in_bar != 0 && beat_px < 24.0))
            return;
        painter.setPen(
            QPen(theme().line, in_bar == 0 ? 1.2 : 0.8, in_bar == 0 ? Qt::SolidLine : Qt::DotLine));
        painter.drawLine(QPointF(x, area.rect.top()), QPointF(x, area.rect.bottom()));
    });
}

} // namespace wirenote::app
