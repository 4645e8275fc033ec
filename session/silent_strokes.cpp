#include "session/silent_strokes.h"

#include "base/interpolate.h"
#include "session/bar_of.h"
#include "session/hand_picture.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace wirenote {
namespace {

constexpr int kTwelfths = 12;    // of a beat
constexpr double kSteady = 0.8;  // of the bars
constexpr int kFewestBars = 3;   // for anything to be steady
constexpr double kRoom_s = 0.18; // before and after a strum

struct Placed {
    int bar = 1;
    CountPlace place;
};

// The nearest sixteenth or third.
Placed placedAt(const BarGrid& grid, const std::vector<double>& beats_s, double time_s) {
    constexpr int kParts[] = {0, 3, 4, 6, 8, 9, 12};
    const double at = placeAmong(beats_s, time_s);
    const double whole = std::floor(at);
    int part = 0;
    for (const int candidate : kParts)
        if (std::abs(candidate - (at - whole) * kTwelfths) <
            std::abs(part - (at - whole) * kTwelfths))
            part = candidate;
    const auto beat = static_cast<int>(whole) + part / kTwelfths;
    const auto place = grid.at(beat);
    return {place.bar, {place.beat, part % kTwelfths}};
}

} // namespace

SilentStrokes silentStrokes(const Piece& piece, int bar) {
    SilentStrokes said;
    const auto& beats_s = piece.timeline.beats_s;
    if (beats_s.size() < 2)
        return said;
    const BarGrid grid(piece.timeline);
    const auto turns = handPicture(piece).turns;
    const auto begins = std::max(0, grid.bar(bar).first_beat);
    const TimeRange section = sectionAt(piece.timeline, atPlace(beats_s, begins));
    std::map<int, int> scratches; // of a place in the bar, as a number
    std::set<int> bars;
    for (std::size_t i = 0; i < turns.size(); ++i) {
        const HandTurn& turn = turns[i];
        if (!section.contains(turn.time_s))
            continue;
        const Placed at = placedAt(grid, beats_s, turn.time_s);
        bars.insert(at.bar);
        said.scratched += turn.ghost ? 1 : 0;
        said.passed += turn.note == 0 ? 1 : 0;
        if (turn.ghost)
            ++scratches[at.place.beat * kTwelfths + at.place.twelfth];
        const bool free = turn.note == 0 && turn.down && at.bar == bar && i > 0 &&
                          i + 1 < turns.size() && at.place.twelfth == 0 &&
                          turn.time_s - turns[i - 1].time_s >= kRoom_s &&
                          turns[i + 1].time_s - turn.time_s >= kRoom_s;
        if (free)
            said.room.push_back(at.place);
    }
    for (const auto& [place, times] : scratches)
        if (static_cast<int>(bars.size()) >= kFewestBars &&
            times >= kSteady * static_cast<double>(bars.size()))
            said.steady.push_back({place / kTwelfths, place % kTwelfths});
    return said;
}

} // namespace wirenote
