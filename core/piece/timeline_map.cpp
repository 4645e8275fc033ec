#include "piece/timeline_map.h"

#include "base/interpolate.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace wirenote {
namespace {

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

TimelineMap::TimelineMap(const Timeline& timeline) : TimelineMap(Counted{countable(timeline)}) {}

TimelineMap::TimelineMap(Counted counted)
    : m_grid(counted.timeline), m_beats_s(std::move(counted.timeline.beats_s)) {
    m_quarters.reserve(m_beats_s.size());
    for (std::size_t i = 0; i < m_beats_s.size(); ++i)
        m_quarters.push_back(m_grid.placeOf(static_cast<int>(i)));
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
