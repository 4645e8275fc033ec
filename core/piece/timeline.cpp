#include "piece/timeline.h"

#include "base/numbers.h"

#include <algorithm>

namespace wirenote {
namespace {

std::int64_t floorDiv(std::int64_t a, std::int64_t b) {
    return a / b - (a % b < 0 ? 1 : 0);
}

int beatsOf(const Metre& metre) {
    return std::max(1, metre.feltBeats());
}

int beatAfter(const GridBar& from, std::int64_t bars) {
    return saturated(from.first_beat + bars * beatsOf(from.metre));
}

// The last of the starts that does not lie after `at`; the first when all do.
template <class T>
const GridBar& lastNotAfter(const std::vector<GridBar>& starts, T at, T GridBar::*where) {
    const auto after = std::ranges::upper_bound(starts, at, {}, where);
    return after == starts.begin() ? starts.front() : *(after - 1);
}

} // namespace

BarGrid::BarGrid(const Timeline& timeline) {
    m_starts.push_back({1, timeline.first_downbeat, timeline.metre, Rational(0)});
    for (const MetreChange& change : timeline.changes) {
        const GridBar before = m_starts.back();
        const std::int64_t bars = static_cast<std::int64_t>(change.bar) - before.number;
        if (bars <= 0)
            continue; // refused by checkPiece; nothing is counted twice
        m_starts.push_back({change.bar,
                            beatAfter(before, bars),
                            change.metre,
                            before.start + Rational(bars) * before.metre.barLength()});
    }
}

BarGrid::Place BarGrid::at(int beat) const {
    const GridBar& from = lastNotAfter(m_starts, beat, &GridBar::first_beat);
    const std::int64_t beats = beatsOf(from.metre);
    const std::int64_t since = static_cast<std::int64_t>(beat) - from.first_beat;
    const std::int64_t bars = floorDiv(since, beats);
    return {saturated(from.number + bars), static_cast<int>(since - bars * beats), from.metre};
}

GridBar BarGrid::bar(int number) const {
    const GridBar& from = lastNotAfter(m_starts, number, &GridBar::number);
    const std::int64_t bars = static_cast<std::int64_t>(number) - from.number;
    return {number,
            beatAfter(from, bars),
            from.metre,
            from.start + Rational(bars) * from.metre.barLength()};
}

GridBar BarGrid::barAt(Rational quarters) const {
    const GridBar& from = lastNotAfter(m_starts, quarters, &GridBar::start);
    const auto bars = ((quarters - from.start) / from.metre.barLength()).floor();
    return bar(saturated(from.number + bars));
}

Rational BarGrid::quartersOf(int beat) const {
    const Place place = at(beat);
    return bar(place.bar).start + Rational(place.beat) * place.metre.beatLength();
}

// As one fraction of whole numbers, so that it is the number nearest to the exact place.
double BarGrid::placeOf(int beat) const {
    const GridBar& from = lastNotAfter(m_starts, beat, &GridBar::first_beat);
    const Rational step = from.metre.beatLength();
    const std::int64_t since = static_cast<std::int64_t>(beat) - from.first_beat;
    const double over = static_cast<double>(from.start.num()) * static_cast<double>(step.den()) +
                        static_cast<double>(since) * static_cast<double>(step.num()) *
                            static_cast<double>(from.start.den());
    return over / (static_cast<double>(from.start.den()) * static_cast<double>(step.den()));
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
