#include "app/benches/film/straight_neck.h"

#include "app/benches/takes/picture_view.h"
#include "app/commands/film_commands.h"
#include "app/document/document.h"
#include "app/theme.h"

#include <QPainter>

namespace wirenote::app {

StraightNeck::StraightNeck(PictureView& picture, Document& document, FilmCommands& commands)
    : m_picture(picture), m_document(document), m_commands(commands) {
    setObjectName("straightNeck");
    setAccessibleName(tr("Neck of the film, laid straight"));
    setFixedHeight(sizeHint().height());
    connect(&picture, &PictureView::shown, this, [this] { update(); });
    connect(&document, &Document::changed, this, [this] { update(); });
    connect(&document, &Document::opened, this, [this] { update(); });
}

void StraightNeck::paintEvent(QPaintEvent*) {
    constexpr double kBefore_mm = 20.0;
    constexpr double kTo = 0.72; // of the scale
    constexpr int kLastFret = 22;
    const auto neck =
        m_picture.take() ? m_commands.neckAt(*m_picture.take(), m_picture.shown_s()) : std::nullopt;
    if (!neck || m_picture.image().isNull())
        return;
    const NeckPlane plane(m_document.piece().instrument);
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    const double scale = width() / (kBefore_mm + kTo * plane.scale_mm());
    const auto x = [&](double along_mm) { return (along_mm + kBefore_mm) * scale; };
    const auto y = [&](double across_mm) { return 0.5 * height() - across_mm * scale; };
    const QSizeF film = m_picture.filmSize();
    const double shown = m_picture.image().width() / film.width();
    QPolygonF from;
    QPolygonF to;
    for (const auto& [fret, thin] : {std::pair(0.0, false),
                                     std::pair(0.0, true),
                                     std::pair(12.0, true),
                                     std::pair(12.0, false)}) {
        const PlanePoint edge = plane.edge(fret, thin);
        const PicturePoint at = project(*neck, edge);
        from << QPointF(at.x * shown, at.y * shown);
        to << QPointF(x(edge.along_mm), y(edge.across_mm));
    }
    QTransform laid;
    if (!QTransform::quadToQuad(from, to, laid))
        return;
    painter.save();
    painter.setTransform(laid, true);
    painter.drawImage(0, 0, m_picture.image());
    painter.restore();
    painter.setPen(QPen(QColor(255, 255, 255, 150), 1.0));
    for (int fret = 0; fret <= kLastFret; ++fret) {
        const double along_mm = plane.wire_mm(fret);
        const double half_mm = plane.halfWidth_mm(along_mm);
        painter.drawLine(QPointF(x(along_mm), y(-half_mm)), QPointF(x(along_mm), y(half_mm)));
    }
    painter.setPen(QPen(QColor(255, 255, 255, 90), 1.0));
    const double end_mm = plane.wire_mm(kLastFret);
    for (int string = 1; string <= plane.strings(); ++string)
        painter.drawLine(QPointF(x(0.0), y(plane.string_mm(string, 0.0))),
                         QPointF(x(end_mm), y(plane.string_mm(string, end_mm))));
}

} // namespace wirenote::app
