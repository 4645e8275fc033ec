#include "app/benches/notes/partials_view.h"

#include "app/theme.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {

constexpr double kLeft = 34.0;
constexpr double kRight = 20.0; // room for the strings' numbers
constexpr double kTop = 26.0;
constexpr double kBottom = 16.0;
constexpr double kDot = 2.6;

double centsOf(double stiffness_b, double n) {
    return 600.0 * std::log2(1.0 + stiffness_b * n * n);
}

QPainterPath curve(
    double stiffness_b, int partials, const auto& x, const auto& y, double lowest, double highest) {
    QPainterPath path;
    bool begun = false;
    for (double n = 1.0; n <= partials; n += 0.5) {
        const double cents = centsOf(stiffness_b, n);
        if (cents < lowest || cents > highest)
            break;
        if (begun)
            path.lineTo(x(n), y(cents));
        else
            path.moveTo(x(n), y(cents));
        begun = true;
    }
    return path;
}

} // namespace

PartialsView::PartialsView(StiffnessFit fit,
                           std::vector<ExpectedStiffness> expected,
                           int chosen_string,
                           QWidget* parent)
    : QWidget(parent), m_fit(std::move(fit)), m_expected(std::move(expected)),
      m_chosen(chosen_string) {
    setObjectName("partials");
    setFixedHeight(sizeHint().height());
    int believed = 0;
    for (const Partial& p : m_fit.partials)
        if (p.weight > 0.0) {
            ++believed;
            m_partials = std::max(m_partials, p.number);
            const double cents = 1200.0 * std::log2(p.f_hz / (p.number * m_fit.f0_hz));
            m_low = std::min(m_low, cents - 3.0);
            m_high = std::max(m_high, 1.15 * cents);
        }
    setAccessibleName(tr("Partials of the note"));
    setAccessibleDescription(tr("%1 partials found, %2 of them agree with one string")
                                 .arg(m_fit.partials.size())
                                 .arg(believed));
    setToolTip(
        tr("Each dot is a partial: how far it lies above the whole multiple of the "
           "fundamental. Hollow: another sound's. Red: the string that fits. Grey: what each "
           "string would do. %1.")
            .arg(accessibleDescription()));
}

double PartialsView::xOf(double partial) const {
    return kLeft + (width() - kLeft - kRight) * (partial - 1.0) / (m_partials - 1.0);
}

double PartialsView::yOf(double cents) const {
    return height() - kBottom - (height() - kTop - kBottom) * (cents - m_low) / (m_high - m_low);
}

void PartialsView::paintAxes(QPainter& painter) const {
    painter.setFont(uiFont(8.0));
    painter.setPen(theme().quiet);
    painter.drawText(QRectF(0, 0, width(), 16),
                     Qt::AlignLeft | Qt::AlignVCenter,
                     tr("overtones: cents above the whole multiple"));
    painter.setFont(uiFont(7.5));
    const double step = m_high > 160.0 ? 100.0 : m_high > 60.0 ? 50.0 : m_high > 25.0 ? 20.0 : 10.0;
    for (double cents = 0.0; cents <= m_high; cents += step) {
        painter.setPen(theme().line);
        painter.drawLine(QPointF(kLeft, yOf(cents)), QPointF(width() - kRight, yOf(cents)));
        painter.setPen(theme().quiet);
        painter.drawText(QRectF(0, yOf(cents) - 7, kLeft - 5, 14),
                         Qt::AlignRight | Qt::AlignVCenter,
                         QString::number(static_cast<int>(cents)));
    }
    for (int n = 1; n <= m_partials; n += m_partials > 16 ? 5 : 2)
        painter.drawText(QRectF(xOf(n) - 12, height() - kBottom, 24, kBottom),
                         Qt::AlignCenter,
                         QString::number(n));
}

void PartialsView::paintStrings(QPainter& painter) const {
    const auto x = [this](double n) { return xOf(n); };
    const auto y = [this](double cents) { return yOf(cents); };
    QPointF last_label(-100.0, -100.0);
    for (const ExpectedStiffness& e : m_expected) {
        const bool chosen = e.place.string == m_chosen;
        painter.setPen(QPen(chosen ? theme().ink : theme().quiet,
                            chosen ? 1.4 : 1.0,
                            chosen ? Qt::SolidLine : Qt::DotLine));
        const auto path = curve(std::exp(e.log_b), m_partials, x, y, m_low, m_high);
        if (path.isEmpty())
            continue;
        painter.drawPath(path);
        const QPointF end = path.currentPosition();
        if ((end - last_label).manhattanLength() < 10.0 && !chosen)
            continue; // strings of one stiffness
        last_label = end;
        painter.setFont(uiFont(7.5, chosen));
        painter.setPen(chosen ? theme().ink : theme().quiet);
        painter.drawText(QRectF(end.x() + 3, end.y() - 7, kRight, 14),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         QString::number(e.place.string));
    }
}

void PartialsView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    paintAxes(painter);
    paintStrings(painter);
    if (m_fit.told()) {
        painter.setPen(QPen(theme().accent, 1.6));
        painter.drawPath(curve(
            std::exp(m_fit.log_b),
            m_partials,
            [this](double n) { return xOf(n); },
            [this](double cents) { return yOf(cents); },
            m_low,
            m_high));
    }
    for (const Partial& p : m_fit.partials) {
        const double cents = 1200.0 * std::log2(p.f_hz / (p.number * m_fit.f0_hz));
        if (p.number > m_partials || cents < m_low || cents > m_high)
            continue;
        painter.setPen(QPen(p.weight > 0.0 ? theme().ink : theme().quiet, 1.0));
        painter.setBrush(p.weight > 0.0 ? QBrush(theme().ink) : QBrush(Qt::NoBrush));
        painter.drawEllipse(QPointF(xOf(p.number), yOf(cents)), kDot, kDot);
    }
}

} // namespace wirenote::app
