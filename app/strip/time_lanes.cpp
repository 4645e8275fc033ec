#include "app/strip/time_lanes.h"

#include "app/document.h"
#include "app/theme.h"

#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {

// Calls visit(index in the bar, time, bar number) for every beat in sight.
template <class Visit> void forBeats(const Timeline& timeline, const LaneArea& area, Visit visit) {
    const int per_bar = std::max(1, timeline.metre.feltBeats());
    for (std::size_t i = 0; i < timeline.beats_s.size(); ++i) {
        const double t = timeline.beats_s[i];
        if (t < area.start_s - 1.0 || t > area.end_s() + 1.0)
            continue;
        const int from_one = static_cast<int>(i) - timeline.first_downbeat;
        const int in_bar = (from_one % per_bar + per_bar) % per_bar;
        visit(in_bar, t, (from_one - in_bar) / per_bar + 1, i);
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

QString SoundLane::name() const {
    return QObject::tr("sound");
}

void SoundLane::paint(QPainter& painter, const LaneArea& area) const {
    const Overview& overview = m_bench.document.take().overview;
    const double middle = area.rect.center().y();
    const double half = area.rect.height() / 2.0 - 4.0;
    if (overview.lowest.empty()) {
        painter.setPen(theme().quiet);
        painter.setFont(uiFont(8.0));
        painter.drawText(
            area.rect.adjusted(10, 0, 0, 0),
            Qt::AlignVCenter | Qt::AlignLeft,
            QObject::tr("no recording here: the tab plays by the simulated instrument"));
        return;
    }
    float loudest = 0.05F;
    for (std::size_t i = 0; i < overview.highest.size(); ++i)
        loudest = std::max({loudest, overview.highest[i], -overview.lowest[i]});
    painter.setRenderHint(QPainter::Antialiasing, false);
    painter.setPen(QPen(theme().quiet, 1));
    const auto last = static_cast<double>(overview.lowest.size());
    for (int x = static_cast<int>(area.rect.left()); x < area.rect.right(); ++x) {
        const double from = std::max(0.0, area.timeAt(x) / overview.step_s);
        const double to =
            std::min(last, std::max(from + 1.0, area.timeAt(x + 1) / overview.step_s));
        if (from >= last)
            break;
        float low = 0.0F;
        float high = 0.0F;
        for (auto i = static_cast<std::size_t>(from); i < static_cast<std::size_t>(to); ++i) {
            low = std::min(low, overview.lowest[i]);
            high = std::max(high, overview.highest[i]);
        }
        painter.drawLine(QPointF(x, middle - half * high / loudest),
                         QPointF(x, middle - half * low / loudest));
    }
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
