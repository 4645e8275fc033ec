#include "plucking/pick_path.h"

#include <algorithm>
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

// Whether the hand has no time for a silent stroke back; with it the pick is lifted anyhow.
bool followsAtOnce(const PluckedLine& line, std::size_t attack) {
    constexpr double kAtOnce_s = 0.35;
    const Pluck& now = line.at(attack);
    const double slot = std::min(now.slot, line.at(attack - 1).slot);
    return line.hasBeats() ? now.beats_since < 1.5 * slot : now.gap_s < kAtOnce_s;
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
        const bool at_once = followsAtOnce(line, i);
        change.swept =
            at_once && change.skipped == 0 && now == before && (now == Stroke::Down) == to_thinner;
        if (at_once && !change.swept)
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
