#include "app/strip/time_view.h"

#include <algorithm>

namespace wirenote::app {

void TimeView::setLength(double length_s) {
    m_length_s = std::max(kShortest_s, length_s);
    show(m_start_s, m_span_s);
}

void TimeView::show(double start_s, double span_s) {
    m_span_s = std::clamp(span_s, kShortest_s, std::max(kShortest_s, m_length_s));
    m_start_s = std::clamp(start_s, 0.0, std::max(0.0, m_length_s - m_span_s));
    emit changed();
}

void TimeView::zoom(double factor, double around_s) {
    const double span = std::clamp(m_span_s / factor, kShortest_s, m_length_s);
    const double share = (around_s - m_start_s) / m_span_s;
    show(around_s - share * span, span);
}

void TimeView::pan(double seconds) {
    show(m_start_s + seconds, m_span_s);
}
void TimeView::showAll() {
    show(0.0, m_length_s);
}

void TimeView::bringIntoView(double time_s) {
    if (time_s >= m_start_s && time_s < m_start_s + 0.92 * m_span_s)
        return;
    show(time_s - 0.12 * m_span_s, m_span_s);
}

} // namespace wirenote::app
