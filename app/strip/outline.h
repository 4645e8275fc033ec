#pragma once

#include "app/strip/lane.h"
#include "piece/take.h"
#include "signal/overview.h"

#include <QColor>

namespace wirenote::app {

// An outline on the time of the piece, through the take's alignment.
void paintOutline(QPainter& painter,
                  const QRectF& rect,
                  const LaneArea& area,
                  const Overview& overview,
                  const TakeAlignment& clock,
                  const QColor& ink);

} // namespace wirenote::app
