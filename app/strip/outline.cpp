#include "app/strip/outline.h"

#include <algorithm>

namespace wirenote::app {

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
        const double to =
            std::max(from + 1.0, clock.toTake({area.timeAt(x + 1)}).s / overview.step_s);
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

} // namespace wirenote::app
