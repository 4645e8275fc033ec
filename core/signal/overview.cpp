#include "signal/overview.h"

#include <algorithm>

namespace wirenote {

OverviewBuilder::OverviewBuilder(double rate_hz, double step_s)
    : m_rate_hz(rate_hz), m_step(static_cast<std::size_t>(std::max(1.0, step_s * rate_hz))) {
    m_overview.step_s = static_cast<double>(m_step) / m_rate_hz;
}

void OverviewBuilder::add(std::span<const float> samples) {
    for (const float v : samples) {
        m_low = std::min(m_low, v);
        m_high = std::max(m_high, v);
        m_power += static_cast<double>(v) * v;
        if (++m_in_step == m_step)
            endStep();
    }
    m_samples += static_cast<double>(samples.size());
}

void OverviewBuilder::endStep() {
    m_overview.lowest.push_back(m_low);
    m_overview.highest.push_back(m_high);
    m_low = m_high = 0.0F;
    m_in_step = 0;
    if (m_overview.lowest.size() < kMostSteps)
        return;
    for (std::size_t i = 0; i < kMostSteps / 2; ++i) {
        m_overview.lowest[i] = std::min(m_overview.lowest[2 * i], m_overview.lowest[2 * i + 1]);
        m_overview.highest[i] = std::max(m_overview.highest[2 * i], m_overview.highest[2 * i + 1]);
    }
    m_overview.lowest.resize(kMostSteps / 2);
    m_overview.highest.resize(kMostSteps / 2);
    m_step *= 2;
    m_overview.step_s = static_cast<double>(m_step) / m_rate_hz;
}

Overview OverviewBuilder::overview() const {
    Overview so_far = m_overview;
    if (m_in_step > 0) { // the last stretch may be shorter
        so_far.lowest.push_back(m_low);
        so_far.highest.push_back(m_high);
    }
    so_far.power = m_samples > 0.0 ? m_power / m_samples : 0.0;
    return so_far;
}

} // namespace wirenote
