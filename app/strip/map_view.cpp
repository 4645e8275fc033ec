#include "app/strip/map_view.h"

#include "app/commands/pulse_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/playing/transport.h"
#include "app/strip/time_view.h"
#include "app/text/form_wording.h"
#include "app/theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {
constexpr int kHeight = 30;
constexpr double kDragThreshold = 5.0;
constexpr double kSide = 4.0;
} // namespace

MapView::MapView(Document& document,
                 TimeView& time,
                 Transport& transport,
                 Derived& derived,
                 PulseCommands& pulse,
                 QWidget* parent)
    : QWidget(parent), m_document(document), m_time(time), m_transport(transport),
      m_derived(derived), m_pulse(pulse) {
    setObjectName("map");
    setAccessibleName(tr("Map: the whole piece on one line"));
    setToolTip(tr("The whole piece: click to go there, drag to loop, double click to loop a part "
                  "([ and ] go from part to part)"));
    setFixedHeight(kHeight);
    const auto soon = [this] { update(); };
    connect(&document, &Document::opened, this, soon);
    connect(&document, &Document::changed, this, [soon](const Changes& what) {
        if (what.timeline || what.takes)
            soon();
    });
    connect(&derived, &Derived::changed, this, soon);
    connect(&time, &TimeView::changed, this, soon);
    connect(&transport, &Transport::changed, this, soon);
    connect(&transport, &Transport::moved, this, soon);
}

double MapView::xOf(double time_s) const {
    const double length = std::max(0.01, m_time.length_s());
    return kSide + time_s / length * (width() - 2.0 * kSide);
}

double MapView::timeAt(double x) const {
    const double share = (x - kSide) / std::max(1.0, width() - 2.0 * kSide);
    return std::clamp(share, 0.0, 1.0) * m_time.length_s();
}

void MapView::paintParts(QPainter& painter) const {
    const Timeline& timeline = m_document.piece().timeline;
    painter.setFont(uiFont(7.5));
    const auto box = [&](TimeRange span, const QString& label, bool named) {
        // A pick-up bar may begin before the recording does.
        const double from = xOf(std::max(0.0, span.start_s)) + 1.0;
        const QRectF rect(from, 5.0, std::max(2.0, xOf(span.end_s) - from - 1.0), height() - 10.0);
        painter.setPen(theme().line);
        painter.setBrush(named ? theme().paper : Qt::transparent);
        painter.drawRoundedRect(rect, 3, 3);
        painter.setPen(named ? theme().ink : theme().quiet);
        painter.drawText(rect.adjusted(4, 0, -2, 0),
                         Qt::AlignVCenter | Qt::AlignLeft,
                         painter.fontMetrics().elidedText(
                             label, Qt::ElideRight, static_cast<int>(rect.width()) - 6));
    };
    if (!timeline.sections.empty()) {
        for (const Section& section : timeline.sections)
            box(section.span, QString::fromStdString(section.label), true);
        return;
    }
    const auto& parts = m_derived.form().parts;
    for (std::size_t i = 0; i < parts.size(); ++i)
        box(parts[i].span, partText(parts, i), !parts[i].label.empty());
}

// Where the leading take is not the playing of the piece: a mark along the lower edge.
void MapView::paintTalk(QPainter& painter) const {
    constexpr double kHigh = 4.0;
    const Take* lead = m_document.piece().lead();
    if (!lead)
        return;
    for (const SoundSpan& one : lead->sound_spans)
        if (one.kind == SoundKind::Talk || one.kind == SoundKind::CountIn ||
            one.kind == SoundKind::Noise)
            painter.fillRect(QRectF(xOf(one.span.start_s),
                                    height() - kHigh - 1.0,
                                    xOf(one.span.end_s) - xOf(one.span.start_s),
                                    kHigh),
                             theme().quiet);
    QColor shown = theme().accent;
    shown.setAlpha(140);
    for (const Demonstration& one : lead->demonstrations)
        if (one.inPiece() && !one.isItself())
            painter.fillRect(QRectF(xOf(one.span.start_s),
                                    height() - kHigh - 1.0,
                                    xOf(one.span.end_s) - xOf(one.span.start_s),
                                    kHigh),
                             shown);
}

void MapView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(theme().line);
    painter.setBrush(theme().panel);
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4);
    if (!m_document.isOpen())
        return;
    if (const auto loop = m_transport.loop()) {
        QColor tint = theme().accent;
        tint.setAlpha(50);
        painter.fillRect(
            QRectF(xOf(loop->start_s), 1, xOf(loop->end_s) - xOf(loop->start_s), height() - 2),
            tint);
    }
    paintParts(painter);
    paintTalk(painter);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(theme().ink, 1.4));
    painter.drawRoundedRect(QRectF(xOf(m_time.start_s()),
                                   2.0,
                                   std::max(4.0, xOf(m_time.end_s()) - xOf(m_time.start_s())),
                                   height() - 4.0),
                            3,
                            3);
    painter.setPen(QPen(theme().accent, 2.0));
    const double head = xOf(m_transport.playhead_s());
    painter.drawLine(QPointF(head, 1), QPointF(head, height() - 1));
}

void MapView::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || !m_document.isOpen())
        return;
    m_pressed_s = timeAt(event->position().x());
    m_dragged = false;
}

void MapView::mouseMoveEvent(QMouseEvent* event) {
    if (!m_pressed_s)
        return;
    const double now_s = timeAt(event->position().x());
    if (std::abs(event->position().x() - xOf(*m_pressed_s)) > kDragThreshold)
        m_dragged = true;
    if (m_dragged)
        m_transport.setLoop(
            TimeRange{std::min(*m_pressed_s, now_s), std::max(*m_pressed_s, now_s)});
}

void MapView::mouseReleaseEvent(QMouseEvent*) {
    if (m_pressed_s && !m_dragged) {
        m_transport.seek(*m_pressed_s);
        m_time.show(*m_pressed_s - 0.3 * m_time.span_s(), m_time.span_s());
    }
    m_pressed_s.reset();
}

void MapView::mouseDoubleClickEvent(QMouseEvent* event) {
    m_transport.seek(timeAt(event->position().x()));
    m_pulse.loopPart();
}

} // namespace wirenote::app
