#include "piece/timeline.h"

#include <algorithm>

namespace wirenote {
namespace {

int floorDiv(int a, int b) {
    return a >= 0 ? a / b : -((-a + b - 1) / b);
}

int beatsOf(const Metre& metre) {
    return std::max(1, metre.feltBeats());
}

} // namespace

BarGrid::BarGrid(const Timeline& timeline) {
    m_starts.push_back({1, timeline.first_downbeat, timeline.metre, Rational(0)});
    for (const MetreChange& change : timeline.changes) {
        const GridBar before = m_starts.back();
        const int bars = change.bar - before.number;
        if (bars <= 0)
            continue; // refused by checkPiece; nothing is counted twice
        m_starts.push_back({change.bar,
                            before.first_beat + bars * beatsOf(before.metre),
                            change.metre,
                            before.start + Rational(bars) * before.metre.barLength()});
    }
}

BarGrid::Place BarGrid::at(int beat) const {
    const GridBar* from = &m_starts.front();
    for (const GridBar& start : m_starts)
        if (start.first_beat <= beat)
            from = &start;
    const int beats = beatsOf(from->metre);
    const int bars = floorDiv(beat - from->first_beat, beats);
    return {from->number + bars, beat - from->first_beat - bars * beats, from->metre};
}

GridBar BarGrid::bar(int number) const {
    const GridBar* from = &m_starts.front();
    for (const GridBar& start : m_starts)
        if (start.number <= number)
            from = &start;
    const int bars = number - from->number;
    return {number,
            from->first_beat + bars * beatsOf(from->metre),
            from->metre,
            from->start + Rational(bars) * from->metre.barLength()};
}

GridBar BarGrid::barAt(Rational quarters) const {
    const GridBar* from = &m_starts.front();
    for (const GridBar& start : m_starts)
        if (start.start <= quarters)
            from = &start;
    const auto bars = ((quarters - from->start) / from->metre.barLength()).floor();
    return bar(from->number + static_cast<int>(bars));
}

Rational BarGrid::quartersOf(int beat) const {
    const Place place = at(beat);
    return bar(place.bar).start + Rational(place.beat) * place.metre.beatLength();
}

std::vector<double> Timeline::downbeats_s() const {
    std::vector<double> downbeats;
    const BarGrid grid(*this);
    for (std::size_t i = static_cast<std::size_t>(std::max(0, first_downbeat)); i < beats_s.size();
         ++i)
        if (grid.isDownbeat(static_cast<int>(i)))
            downbeats.push_back(beats_s[i]);
    return downbeats;
}

} // namespace wirenote
