#include "score/timeline_map.h"

#include <algorithm>
#include <cmath>

namespace wirenote {

TimelineMap::TimelineMap(const Timeline& timeline)
    : m_beats_s(timeline.beats_s), m_first(timeline.first_downbeat), m_metre(timeline.metre),
      m_beat(timeline.metre.beatLength()) {
    m_beats_s.erase(std::unique(m_beats_s.begin(), m_beats_s.end()), m_beats_s.end());
    if (m_beats_s.size() < 2) {
        m_beats_s = {0.0, 0.5 * m_beat.toDouble()};
        m_first = 0;
    }
}

double TimelineMap::quartersAt(double time_s) const {
    auto next = std::upper_bound(m_beats_s.begin(), m_beats_s.end(), time_s);
    next = std::clamp(next, m_beats_s.begin() + 1, m_beats_s.end() - 1);
    const auto before = next - 1;
    const double beats =
        static_cast<double>(before - m_beats_s.begin()) + (time_s - *before) / (*next - *before);
    return (beats - m_first) * m_beat.toDouble();
}

double TimelineMap::timeAt(double quarters) const {
    const double beats = quarters / m_beat.toDouble() + m_first;
    const double whole =
        std::clamp(std::floor(beats), 0.0, static_cast<double>(m_beats_s.size() - 2));
    const auto i = static_cast<std::size_t>(whole);
    return m_beats_s[i] + (beats - whole) * (m_beats_s[i + 1] - m_beats_s[i]);
}

TimelineMap::BarBeat TimelineMap::barBeatAt(double time_s) const {
    const double quarters = quartersAt(time_s);
    const double bar_length = m_metre.barLength().toDouble();
    const double bar = std::floor(quarters / bar_length + 1e-9);
    return {static_cast<int>(bar) + 1, (quarters - bar * bar_length) / m_beat.toDouble() + 1.0};
}

} // namespace wirenote
