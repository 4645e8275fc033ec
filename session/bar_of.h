// The bar that a note belongs to, and the section.
#pragma once

#include "piece/piece.h"
#include "piece/timeline_map.h"

namespace wirenote {

struct BarOf {
    int number = 0;
    TimeRange span;      // what is played a little early is still of its bar
    double next_s = 0.0; // where the next one begins
};

inline BarOf barOf(const Piece& piece, const Note& note) {
    constexpr double kPlayedEarly_s = 0.05;
    const TimelineMap map(piece.timeline);
    const int bar = map.barBeatAt(note.onset_s() + kPlayedEarly_s).bar;
    const auto startOf = [&map](int number) {
        return map.timeAt(map.grid().bar(number).start.toDouble());
    };
    const double next_s = startOf(bar + 1);
    return {bar, {startOf(bar) - kPlayedEarly_s, next_s - kPlayedEarly_s}, next_s};
}

// Between two section marks; all of time where there are none.
inline TimeRange sectionAt(const Timeline& timeline, double time_s) {
    for (const Section& section : timeline.sections)
        if (section.span.contains(time_s))
            return section.span;
    return {-1e9, 1e9};
}

} // namespace wirenote
