#pragma once

#include "base/rational.h"
#include "piece/piece.h"

namespace wirenote {

// Media time (seconds) against score time (quarter notes from the start of bar 1), along the beats.
// Before the first and after the last beat the tempo there goes on. With fewer than two beats the
// tempo is 120 from second 0, so that everything can still be written down.
class TimelineMap {
  public:
    explicit TimelineMap(const Timeline& timeline);

    double quartersAt(double time_s) const; // negative in the pick-up
    double timeAt(double quarters) const;
    Rational beatLength() const { return m_beat; }
    Metre metre() const { return m_metre; }

    struct BarBeat {
        int bar = 1;       // 1 is the first; 0 and below is the pick-up
        double beat = 1.0; // felt beat within the bar, from 1
    };
    BarBeat barBeatAt(double time_s) const;

  private:
    std::vector<double> m_beats_s;
    int m_first = 0;
    Metre m_metre;
    Rational m_beat;
};

} // namespace wirenote
