#include "fretting/grip_shape.h"

#include "piece/one_stroke.h"

#include <algorithm>
#include <vector>

namespace wirenote {
namespace {

constexpr std::size_t kReach = 64; // notes before and after that are looked at

using Grip = std::vector<Position>;

Grip gripOf(const Rows& rows, const IndexSpan& stroke) {
    Grip grip;
    for (std::size_t i = stroke.first; i < stroke.end; ++i)
        if (rows[i].plan.placed())
            grip.push_back(rows[i].plan.position.value);
    std::ranges::sort(grip);
    return grip;
}

// By how many frets one grip is another moved along the same strings; nothing: its shape is another
// or has open strings.
std::optional<int> fretsBetween(const Grip& from, const Grip& to) {
    if (from.size() != to.size() || from.size() < 2)
        return {};
    const int moved = to.front().fret - from.front().fret;
    for (std::size_t i = 0; i < from.size(); ++i)
        if (from[i].string != to[i].string || to[i].fret - from[i].fret != moved ||
            from[i].fret == 0 || to[i].fret == 0)
            return {};
    return moved;
}

} // namespace

GripShape gripShape(const Instrument& instrument, const Rows& rows, std::size_t row) {
    GripShape shape;
    if (row >= rows.size())
        return shape;
    const std::size_t first = row > kReach ? row - kReach : 0;
    const Rows near = rows.part(first, std::min(rows.size(), row + kReach));
    const auto strokes = strokeSpans(near.notes());
    auto stroke = std::ranges::find_if(
        strokes, [&](const IndexSpan& s) { return s.first <= row - first && row - first < s.end; });
    if (stroke == strokes.end())
        return shape;
    const Grip grip = gripOf(near, *stroke);
    if (grip.size() < 2)
        return shape;
    shape.like = openGripLike(instrument, grip);
    while (stroke != strokes.begin()) {
        const Grip before = gripOf(near, *--stroke);
        if (before.size() < 2 || before == grip)
            continue;
        shape.moved = fretsBetween(before, grip);
        break;
    }
    return shape;
}

} // namespace wirenote
