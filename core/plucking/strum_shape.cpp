#include "plucking/strum_shape.h"

#include <algorithm>

namespace wirenote {

std::optional<StrumShape> strumShape(const PluckedLine& line, std::size_t attack) {
    constexpr int kArm = 3; // strings
    const Pluck& pluck = line.at(attack);
    const Rows& rows = line.rows();
    const Stroke stroke = rows[pluck.notes.front()].plan.stroke.value;
    if (pluck.strings.size() < 2 || (stroke != Stroke::Down && stroke != Stroke::Up))
        return std::nullopt;
    StrumShape shape{pluck.strings.front(), pluck.strings.back(), {}, false, pluck.spread_s};
    std::vector<int> sound;
    for (const std::size_t n : pluck.notes)
        if (!rows[n].note.has(Technique::Dead))
            sound.push_back(rows[n].plan.position.value.string);
    for (int string = shape.first; string >= shape.last; --string)
        if (std::ranges::find(sound, string) == sound.end())
            shape.damped.push_back(string);
    shape.arm = pluck.across() >= kArm;
    if (stroke == Stroke::Up)
        std::swap(shape.first, shape.last);
    return shape;
}

} // namespace wirenote
