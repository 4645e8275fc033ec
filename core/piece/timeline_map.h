#pragma once

#include "base/rational.h"
#include "piece/timeline.h"

namespace wirenote {

// Media time (seconds) against score time (quarter notes from the start of bar 1), along the beats
// and through metre changes. Before the first and after the last beat the tempo there goes on. With
// fewer than two beats the tempo is 120 from second 0, so that everything can still be written
// down.
class TimelineMap {
  public:
    explicit TimelineMap(const Timeline& timeline);

    double quartersAt(double time_s) const; // negative in the pick-up
    double timeAt(double quarters) const;
    const BarGrid& grid() const { return m_grid; }
    const std::vector<double>& beats_s() const { return m_beats_s; }
    // Where the beats lie in score time, one for each of beats_s().
    const std::vector<double>& beatQuarters() const { return m_quarters; }

    struct BarBeat {
        int bar = 1;       // 1 is the first; 0 and below is the pick-up
        double beat = 1.0; // felt beat within the bar, from 1
    };
    BarBeat barBeatAt(double time_s) const;

  private:
    struct Counted { // with beats enough to count by
        Timeline timeline;
    };
    explicit TimelineMap(Counted counted);

    BarGrid m_grid;
    std::vector<double> m_beats_s;
    std::vector<double> m_quarters;
};

} // namespace wirenote
