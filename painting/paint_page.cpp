#include "painting/paint_page.h"

#include "painting/fonts.h"

#include <QPainter>
#include <QPainterPath>
#include <cmath>

namespace wirenote {
namespace {

// Fonts come in whole pixels: texts are drawn large and scaled, so that every size is exact.
constexpr double kDrawn_px = 256.0;

class Painter {
  public:
    Painter(QPainter& painter, double scale, const PaintStyle& style)
        : m_p(painter), m_k(scale), m_style(style) {}

    void draw(const Ink& ink) {
        if (ink.on_paper) {
            constexpr double kMore_mm = 0.3;
            m_p.fillRect(QRectF((ink.box.left - kMore_mm) * m_k,
                                (ink.box.top - 0.1) * m_k,
                                (ink.box.width() + 2.0 * kMore_mm) * m_k,
                                (ink.box.height() + 0.2) * m_k),
                         m_style.paper);
        }
        std::visit([this](const auto& what) { paint(what); }, ink.what);
    }

  private:
    QPointF at(const Point& p) const { return {p.x * m_k, p.y * m_k}; }

    void written(const QString& text, const QFont& font, double x, double y, double size_mm) {
        if (m_style.outlines) {
            QPainterPath path;
            path.addText(0, 0, font, text);
            m_p.save();
            m_p.translate(x * m_k, y * m_k);
            m_p.scale(size_mm * m_k / kDrawn_px, size_mm * m_k / kDrawn_px);
            m_p.fillPath(path, m_style.ink);
            m_p.restore();
            return;
        }
        m_p.save();
        m_p.translate(x * m_k, y * m_k);
        m_p.scale(size_mm * m_k / kDrawn_px, size_mm * m_k / kDrawn_px);
        m_p.setFont(font);
        m_p.setPen(m_style.ink);
        m_p.drawText(QPointF(0, 0), text);
        m_p.restore();
    }

    void paint(const GlyphInk& glyph) {
        written(QString::fromUcs4(&glyph.code, 1),
                musicFont(kDrawn_px / 4.0),
                glyph.x,
                glyph.y,
                4.0 * glyph.space);
    }
    void paint(const TextInk& text) {
        written(QString::fromStdString(text.text),
                textFont(kDrawn_px, text.strong),
                text.x,
                text.baseline,
                text.size);
    }
    void paint(const LineInk& line) {
        QPen pen(m_style.ink, line.width * m_k, Qt::SolidLine, Qt::FlatCap);
        if (line.dashed)
            pen.setDashPattern({0.8 / line.width, 0.6 / line.width});
        m_p.setPen(pen);
        m_p.drawLine(QPointF(line.x1 * m_k, line.y1 * m_k), QPointF(line.x2 * m_k, line.y2 * m_k));
    }
    void paint(const ShapeInk& shape) {
        QPolygonF polygon;
        for (const Point& p : shape.points)
            polygon << at(p);
        if (shape.width > 0.0) {
            m_p.setPen(
                QPen(m_style.ink, shape.width * m_k, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
            m_p.drawPolyline(polygon);
            return;
        }
        m_p.setPen(Qt::NoPen);
        m_p.setBrush(m_style.ink);
        m_p.drawPolygon(polygon);
        m_p.setBrush(Qt::NoBrush);
    }
    void paint(const CurveInk& curve) {
        QPainterPath path(at(curve.from));
        path.cubicTo(at(curve.c1), at(curve.c2), at(curve.to));
        if (curve.thickness <= 0.0) {
            m_p.setPen(QPen(m_style.ink, curve.end_width * m_k, Qt::SolidLine, Qt::FlatCap));
            m_p.setBrush(Qt::NoBrush);
            m_p.drawPath(path);
            return;
        }
        // Back a little further out: thick in the middle, thin at its ends.
        const double out = curve.c1.y < curve.from.y ? curve.thickness : -curve.thickness;
        path.cubicTo(
            at({curve.c2.x, curve.c2.y + out}), at({curve.c1.x, curve.c1.y + out}), at(curve.from));
        m_p.setPen(
            QPen(m_style.ink, curve.end_width * m_k, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        m_p.setBrush(m_style.ink);
        m_p.drawPath(path);
        m_p.setBrush(Qt::NoBrush);
    }

    QPainter& m_p;
    double m_k;
    const PaintStyle& m_style;
};

} // namespace

void paintPage(QPainter& painter, const SheetPage& page, double scale, const PaintStyle& style) {
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setRenderHint(QPainter::TextAntialiasing);
    Painter drawn(painter, scale, style);
    // Lines first, so that numbers stand on them.
    for (const Ink& ink : page.ink)
        if (ink.sign == Sign::StaffLine)
            drawn.draw(ink);
    for (const Ink& ink : page.ink)
        if (ink.sign != Sign::StaffLine)
            drawn.draw(ink);
}

} // namespace wirenote
