// The small marks that tell how a decision is known: by shape, never by hue alone.
#pragma once

#include "piece/note.h"

#include <QColor>
#include <QPointF>

class QPainter;

namespace wirenote::app {

constexpr double kMarkWidth = 12.0;

// A wave (heard), a ring (seen), a caret (reasoned) or a pin (set), centred, about 10 pixels wide.
void paintBasisMark(QPainter& painter, Basis basis, QPointF centre, const QColor& colour);
// The bow marks for down- and up-strokes, or the letter of the plucking finger.
void paintStrokeMark(
    QPainter& painter, Stroke stroke, QPointF centre, const QColor& colour, double size = 10.0);

} // namespace wirenote::app
