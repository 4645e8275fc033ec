#include "app/benches/sheet/sheet_painter.h"

#include "app/marks.h"
#include "app/theme.h"
#include "base/atomic_file.h"

#include <QBuffer>
#include <QPainter>
#include <QPainterPath>
#include <QPdfWriter>

namespace wirenote::app {
namespace {

const QColor kInk("#23261f"); // paper is paper, whatever the window's colours
const QColor kPaper("#ffffff");

double sizeOf(TextRole role) { // millimetres
    switch (role) {
    case TextRole::Title:
        return 6.0;
    case TextRole::Subtitle:
    case TextRole::Footer:
        return 3.0;
    case TextRole::FretNumber:
        return 3.1;
    case TextRole::Position:
        return 2.7;
    case TextRole::BarNumber:
    case TextRole::Finger:
    case TextRole::Tuning:
    case TextRole::Technique:
        return 2.5;
    }
    return 3.0;
}

void paintText(QPainter& painter, const PageText& text, double k) {
    QFont font = uiFont(10,
                        text.role == TextRole::Title || text.role == TextRole::FretNumber ||
                            text.role == TextRole::Position);
    font.setPixelSize(std::max(1, static_cast<int>(sizeOf(text.role) * k)));
    painter.setFont(font);
    const QString words = QString::fromStdString(text.text);
    const QRectF bounds = painter.fontMetrics().boundingRect(words);
    const QPointF centre(text.x_mm * k, text.y_mm * k);
    if (text.role == TextRole::FretNumber) {
        const double w = bounds.width() + 0.8 * k;
        const QRectF box(centre.x() - w / 2, centre.y() - 1.25 * k, w, 2.5 * k);
        painter.fillRect(box, kPaper);
        if (text.doubtful) { // an open doubt stays visible on paper
            painter.setPen(QPen(kInk, 0.12 * k, Qt::DashLine));
            painter.drawRoundedRect(
                box.adjusted(-0.4 * k, -0.3 * k, 0.4 * k, 0.3 * k), 0.6 * k, 0.6 * k);
        }
    }
    painter.setPen(kInk);
    painter.drawText(
        QRectF(centre.x() - 100 * k, centre.y() - 5 * k, 200 * k, 10 * k), Qt::AlignCenter, words);
}

void paintMark(QPainter& painter, const PageMark& mark, double k) {
    if (mark.kind == MarkKind::Slur) {
        QPainterPath arc(QPointF(mark.x_mm * k, mark.y_mm * k));
        arc.quadTo(QPointF((mark.x_mm + mark.x2_mm) / 2 * k, (mark.y_mm - 1.8) * k),
                   QPointF(mark.x2_mm * k, mark.y_mm * k));
        painter.setPen(QPen(kInk, 0.25 * k));
        painter.setBrush(Qt::NoBrush);
        painter.drawPath(arc);
        return;
    }
    const double h = 0.9 * k;
    const QPointF c(mark.x_mm * k, mark.y_mm * k);
    painter.setPen(QPen(kInk, 0.3 * k, Qt::SolidLine, Qt::FlatCap, Qt::MiterJoin));
    painter.setBrush(Qt::NoBrush);
    if (mark.kind == MarkKind::DownStroke)
        painter.drawPolyline(QPolygonF({{c.x() - h, c.y() + h},
                                        {c.x() - h, c.y() - h},
                                        {c.x() + h, c.y() - h},
                                        {c.x() + h, c.y() + h}}));
    else
        painter.drawPolyline(
            QPolygonF({{c.x() - h, c.y() - h}, {c.x(), c.y() + h}, {c.x() + h, c.y() - h}}));
}

} // namespace

void paintTabPage(QPainter& painter, const TabPage& page, double k) {
    painter.setRenderHint(QPainter::Antialiasing);
    for (const PageLine& line : page.lines) {
        painter.setPen(QPen(kInk, line.width_mm * k));
        painter.drawLine(QPointF(line.x1_mm * k, line.y1_mm * k),
                         QPointF(line.x2_mm * k, line.y2_mm * k));
    }
    for (const PageMark& mark : page.marks)
        paintMark(painter, mark, k);
    for (const PageText& text : page.texts)
        paintText(painter, text, k);
}

Status writePdf(const Piece& piece, const QString& path) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    {
        QPdfWriter writer(&buffer);
        writer.setTitle(QString::fromStdString(piece.title));
        writer.setCreator("Wirenote");
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setPageMargins(QMarginsF(0, 0, 0, 0));
        writer.setResolution(300);
        const double pixels_per_mm = 300.0 / 25.4;
        QPainter painter(&writer);
        bool first = true;
        for (const TabPage& page : layOutTabPages(piece)) {
            if (!first)
                writer.newPage();
            first = false;
            paintTabPage(painter, page, pixels_per_mm);
        }
    }
    return writeFileAtomically(
        path.toStdString(),
        std::string_view(bytes.constData(), static_cast<std::size_t>(bytes.size())));
}

} // namespace wirenote::app
