#include "plucking/thumb_cycle.h"

#include "base/interpolate.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace wirenote {
namespace {

constexpr double kOnBeat = 0.15; // of a beat
constexpr int kAgain = 2;        // beats until a thumb that alternates is on the string again

// The string of the thumb's stroke on each beat that has one.
std::map<int, int> thumbsByBeat(const Piece& piece, std::size_t reading) {
    std::map<int, int> strings;
    for (const auto& [note, plan] : piece.rows(reading)) {
        const double at = placeAmong(piece.timeline.beats_s, note.onset_s());
        const double beat = std::round(at);
        if (plan.stroke.value == Stroke::P && std::abs(at - beat) <= kOnBeat)
            strings.try_emplace(static_cast<int>(beat), plan.position.value.string);
    }
    return strings;
}

} // namespace

std::vector<ThumbGap> thumbGaps(const Piece& piece, std::size_t reading) {
    const auto& beats_s = piece.timeline.beats_s;
    if (piece.readings[reading].head.plucking_school.value != PluckingSchool::Thumb ||
        beats_s.size() < 2)
        return {};
    const auto thumbs = thumbsByBeat(piece, reading);
    std::vector<ThumbGap> gaps;
    if (thumbs.empty())
        return gaps;
    const BarGrid grid(piece.timeline);
    for (int beat = thumbs.begin()->first; beat < thumbs.rbegin()->first; ++beat) {
        if (thumbs.contains(beat))
            continue;
        const auto place = grid.at(beat);
        ThumbGap gap{atPlace(beats_s, beat), place.bar, place.beat, 0};
        for (const int other : {beat - kAgain, beat + kAgain})
            if (const auto at = thumbs.find(other); gap.string == 0 && at != thumbs.end())
                gap.string = at->second;
        gaps.push_back(gap);
    }
    return gaps;
}

} // namespace wirenote
