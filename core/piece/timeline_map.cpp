#include "piece/timeline_map.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

// Along the straight lines through (x, y), the outer ones going on.
double along(const std::vector<double>& x, const std::vector<double>& y, double at) {
    auto next = std::upper_bound(x.begin(), x.end(), at);
    next = std::clamp(next, x.begin() + 1, x.end() - 1);
    const auto i = static_cast<std::size_t>(next - x.begin());
    return y[i - 1] + (at - x[i - 1]) / (x[i] - x[i - 1]) * (y[i] - y[i - 1]);
}

Timeline countable(Timeline timeline) {
    auto& beats = timeline.beats_s;
    beats.erase(std::unique(beats.begin(), beats.end()), beats.end());
    if (beats.size() < 2) {
        beats = {0.0, 0.5 * timeline.metre.beatLength().toDouble()};
        timeline.first_downbeat = 0;
        timeline.changes.clear();
    }
    return timeline;
}

} // namespace

TimelineMap::TimelineMap(const Timeline& timeline) : m_grid(countable(timeline)) {
    m_beats_s = countable(timeline).beats_s;
    for (std::size_t i = 0; i < m_beats_s.size(); ++i)
        m_quarters.push_back(m_grid.quartersOf(static_cast<int>(i)).toDouble());
}

double TimelineMap::quartersAt(double time_s) const {
    return along(m_beats_s, m_quarters, time_s);
}

double TimelineMap::timeAt(double quarters) const {
    return along(m_quarters, m_beats_s, quarters);
}

TimelineMap::BarBeat TimelineMap::barBeatAt(double time_s) const {
    const double quarters = quartersAt(time_s);
    // A hair before a bar line is on it.
    const GridBar bar =
        m_grid.barAt(Rational(std::llround(std::floor(quarters * 1e6 + 1.0)), 1000000));
    return {bar.number,
            (quarters - bar.start.toDouble()) / bar.metre.beatLength().toDouble() + 1.0};
}

} // namespace wirenote
