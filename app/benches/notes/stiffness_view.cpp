#include "app/benches/notes/stiffness_view.h"

#include "app/theme.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {

constexpr int kHead = 15;
constexpr int kRow = 15;
constexpr int kFoot = 14;
constexpr double kName = 52.0; // room for "string 6"
constexpr double kLeastBar = 3.0;

} // namespace

StiffnessView::StiffnessView(HeardStiffness heard,
                             std::vector<ExpectedStiffness> expected,
                             int chosen_string,
                             QWidget* parent)
    : QWidget(parent), m_heard(heard), m_expected(std::move(expected)), m_chosen(chosen_string) {
    m_low = m_high = heard.log_b;
    QStringList words;
    for (const ExpectedStiffness& e : m_expected) {
        m_low = std::min(m_low, e.log_b - e.sd);
        m_high = std::max(m_high, e.log_b + e.sd);
        const double times = std::exp(heard.log_b - e.log_b);
        words << tr("%1 times what string %2 has").arg(times, 0, 'f', 2).arg(e.place.string);
    }
    const double margin = std::max(0.15, 0.06 * (m_high - m_low));
    m_low -= margin;
    m_high += margin;
    setFixedHeight(sizeHint().height());
    setAccessibleName(tr("Stiffness of the note against each string"));
    setAccessibleDescription(words.join(", "));
    setToolTip(tr("The upper partials of a thick string are sharper than whole multiples. "
                  "Heard: %1.")
                   .arg(words.join(", ")));
}

QSize StiffnessView::sizeHint() const {
    return {200, kHead + kRow * static_cast<int>(m_expected.size()) + kFoot};
}

double StiffnessView::xOf(double log_b) const {
    return kName + (width() - kName - 2.0) * (log_b - m_low) / (m_high - m_low);
}

void StiffnessView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setFont(uiFont(8.0));
    painter.setPen(theme().quiet);
    painter.drawText(QRectF(0, 0, width(), kHead),
                     Qt::AlignLeft | Qt::AlignVCenter,
                     m_heard.borrowed ? tr("how stiff its string sounds (from other repeats)")
                                      : tr("how stiff its string sounds"));
    const double bottom = kHead + kRow * static_cast<double>(m_expected.size());
    // What was heard, as wide as it is unsure, behind the bars.
    const double half = std::clamp(m_heard.sd, 0.0, m_high - m_low);
    QColor band = theme().accent;
    band.setAlpha(45);
    painter.setClipRect(QRectF(kName, kHead - 3, width() - kName, bottom - kHead + 6));
    painter.fillRect(QRectF(QPointF(xOf(m_heard.log_b - half), kHead - 2),
                            QPointF(xOf(m_heard.log_b + half), bottom + 2)),
                     band);
    painter.setClipping(false);
    for (std::size_t i = 0; i < m_expected.size(); ++i) {
        const ExpectedStiffness& e = m_expected[i];
        const bool chosen = e.place.string == m_chosen;
        const double top = kHead + kRow * static_cast<double>(i);
        painter.setFont(uiFont(8.5, chosen));
        painter.setPen(theme().ink);
        painter.drawText(QRectF(0, top, kName, kRow),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         tr("string %1").arg(e.place.string));
        painter.setPen(theme().line);
        const double middle = top + 0.5 * kRow;
        painter.drawLine(QPointF(kName, middle), QPointF(width(), middle));
        const double left = xOf(e.log_b - e.sd);
        const double right = std::max(left + kLeastBar, xOf(e.log_b + e.sd));
        painter.fillRect(QRectF(left, middle - 4, right - left, 8),
                         chosen ? theme().ink : theme().quiet);
    }
    painter.setPen(QPen(theme().accent, 2.0));
    painter.drawLine(QPointF(xOf(m_heard.log_b), kHead - 2),
                     QPointF(xOf(m_heard.log_b), bottom + 2));
    painter.setFont(uiFont(7.5));
    painter.setPen(theme().quiet);
    const QRectF foot(kName, bottom + 1, width() - kName, kFoot);
    painter.drawText(foot, Qt::AlignLeft | Qt::AlignVCenter, tr("supple"));
    painter.drawText(foot, Qt::AlignRight | Qt::AlignVCenter, tr("stiff"));
}

} // namespace wirenote::app
