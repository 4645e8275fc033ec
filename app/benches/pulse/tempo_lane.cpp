#include "app/benches/pulse/tempo_lane.h"

#include "app/document/document.h"
#include "app/theme.h"

#include <algorithm>

namespace wirenote::app {
namespace {

// Beats a minute from each beat to the next.
std::vector<double> tempi(const std::vector<double>& beats_s) {
    std::vector<double> bpm;
    for (std::size_t i = 0; i + 1 < beats_s.size(); ++i)
        bpm.push_back(60.0 / std::max(0.05, beats_s[i + 1] - beats_s[i]));
    return bpm;
}

} // namespace

TempoLane::TempoLane(Document& document) : m_document(document) {
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.timeline)
            emit stale({});
    });
}

QString TempoLane::name() const {
    return QObject::tr("tempo");
}

void TempoLane::paint(QPainter& painter, const LaneArea& area) const {
    const Timeline& timeline = m_document.piece().timeline;
    const auto bpm = tempi(timeline.beats_s);
    if (bpm.empty())
        return;
    // A fifth each way about the middle: what is steady looks steady.
    const double middle = timeline.tempo_bpm > 0.0 ? timeline.tempo_bpm : bpm.front();
    const auto yOf = [&](double tempo) {
        const double share = std::clamp((tempo / middle - 1.0) / 0.4, -0.5, 0.5);
        return area.rect.center().y() - share * (area.rect.height() - 12.0);
    };
    painter.setPen(QPen(theme().line, 1.0, Qt::DotLine));
    painter.drawLine(QPointF(area.rect.left(), yOf(middle)),
                     QPointF(area.rect.right(), yOf(middle)));
    painter.setPen(QPen(theme().ink, 1.4));
    QPolygonF line;
    for (std::size_t i = 0; i < bpm.size(); ++i)
        line << QPointF(area.xOf(0.5 * (timeline.beats_s[i] + timeline.beats_s[i + 1])),
                        yOf(bpm[i]));
    painter.setRenderHint(QPainter::Antialiasing);
    painter.drawPolyline(line);
}

QString TempoLane::tellAt(QPointF at, const LaneArea& area) const {
    const auto& beats = m_document.piece().timeline.beats_s;
    const auto next = std::ranges::upper_bound(beats, area.timeAt(at.x()));
    if (next == beats.begin() || next == beats.end())
        return {};
    return QObject::tr("%1 beats a minute").arg(60.0 / (*next - *(next - 1)), 0, 'f', 1);
}

} // namespace wirenote::app
