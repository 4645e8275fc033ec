#include "plucking/pick_path.h"

#include <cstdlib>

namespace wirenote {
namespace {

// Down, up, or nothing.
Stroke pickedAt(const PluckedLine& line, std::size_t attack) {
    const Pluck& pluck = line.at(attack);
    if (!pluck.single() || pluck.string() == 0 || pluck.ghost)
        return Stroke::None;
    const Stroke stroke = line.rows()[pluck.notes.front()].plan.stroke.value;
    return stroke == Stroke::Down || stroke == Stroke::Up ? stroke : Stroke::None;
}

} // namespace

std::vector<StringChange> pickPath(const PluckedLine& line, IndexSpan attacks) {
    std::vector<StringChange> changes;
    int on_string = 0;
    Slant last = Slant::Either;
    for (std::size_t i = attacks.first; i < attacks.end; ++i) {
        const Stroke now = pickedAt(line, i);
        const Stroke before = i > attacks.first ? pickedAt(line, i - 1) : Stroke::None;
        if (now == Stroke::None || before == Stroke::None) {
            on_string = now == Stroke::None ? 0 : 1;
            last = Slant::Either;
            continue;
        }
        const int from = line.at(i - 1).string();
        const int to = line.at(i).string();
        if (from == to) {
            ++on_string;
            continue;
        }
        StringChange change{i, from, to, on_string, std::abs(to - from) - 1};
        const bool to_thinner = to < from;
        change.swept = change.skipped == 0 && now == before && (now == Stroke::Down) == to_thinner;
        if (!change.swept)
            change.slant = before == Stroke::Up ? Slant::Downward : Slant::Upward;
        if (change.slant != Slant::Either) {
            change.flips = last != Slant::Either && last != change.slant;
            last = change.slant;
        }
        changes.push_back(change);
        on_string = 1;
    }
    return changes;
}

} // namespace wirenote
