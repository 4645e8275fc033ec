#include "app/marks.h"

#include "app/theme.h"

#include <QPainter>
#include <QPainterPath>

namespace wirenote::app {

void paintBasisMark(QPainter& painter, Basis basis, QPointF c, const QColor& colour) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(colour, 1.4, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    painter.setBrush(Qt::NoBrush);
    QPainterPath path;
    switch (basis) {
    case Basis::Heard:
        path.moveTo(c.x() - 5, c.y());
        path.cubicTo(c.x() - 2.5, c.y() - 6, c.x() - 1.5, c.y() - 2, c.x(), c.y());
        path.cubicTo(c.x() + 1.5, c.y() + 2, c.x() + 2.5, c.y() + 6, c.x() + 5, c.y());
        break;
    case Basis::Seen:
        path.addEllipse(c, 3.3, 3.3);
        break;
    case Basis::Reasoned:
        path.moveTo(c.x() - 4, c.y() + 2.5);
        path.lineTo(c.x(), c.y() - 3);
        path.lineTo(c.x() + 4, c.y() + 2.5);
        break;
    case Basis::Set:
        painter.setBrush(colour);
        painter.drawEllipse(QPointF(c.x(), c.y() - 2), 2.4, 2.4);
        path.moveTo(c.x(), c.y());
        path.lineTo(c.x(), c.y() + 5);
        break;
    }
    painter.drawPath(path);
    painter.restore();
}

void paintStrokeMark(
    QPainter& painter, Stroke stroke, QPointF c, const QColor& colour, double size) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(colour, 1.6, Qt::SolidLine, Qt::FlatCap, Qt::MiterJoin));
    const double h = size / 2.0;
    QPainterPath path;
    if (stroke == Stroke::Down) { // the bow mark ⊓
        path.moveTo(c.x() - h, c.y() + h);
        path.lineTo(c.x() - h, c.y() - h);
        path.lineTo(c.x() + h, c.y() - h);
        path.lineTo(c.x() + h, c.y() + h);
    } else if (stroke == Stroke::Up) { // the bow mark V
        path.moveTo(c.x() - h, c.y() - h);
        path.lineTo(c.x(), c.y() + h);
        path.lineTo(c.x() + h, c.y() - h);
    } else if (stroke == Stroke::None) {
        painter.setBrush(colour);
        painter.drawEllipse(c, 1.2, 1.2);
    } else if (stroke != Stroke::Unknown) {
        static const char* const kLetters[] = {"p", "i", "m", "a", "c", "×"};
        painter.setFont(uiFont(9.5));
        painter.drawText(
            QRectF(c.x() - 8, c.y() - 9, 16, 18),
            Qt::AlignCenter,
            QString::fromUtf8(kLetters[static_cast<int>(stroke) - static_cast<int>(Stroke::P)]));
    }
    painter.drawPath(path);
    painter.restore();
}

} // namespace wirenote::app
