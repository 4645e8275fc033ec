#include "plucking/ghost_strings.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kReach_s = 6.0;

bool hasDirection(Stroke stroke) {
    return stroke == Stroke::Down || stroke == Stroke::Up;
}

// The strings of what begins with this note, if it is a strum that sounds and goes this way.
std::optional<Swept> strumAt(const Rows& rows, std::size_t first, Stroke way) {
    int thick = 0;
    int thin = 99;
    int count = 0;
    constexpr double kStrum_s = 0.09;
    for (std::size_t i = first;
         i < rows.size() && rows[i].note.onset_s() - rows[first].note.onset_s() < kStrum_s;
         ++i) {
        const auto& [note, plan] = rows[i];
        if (note.has(Technique::GhostStroke) || plan.stroke.value != way || !plan.placed())
            continue;
        thick = std::max(thick, plan.position.value.string);
        thin = std::min(thin, plan.position.value.string);
        ++count;
    }
    if (count < 2)
        return std::nullopt;
    return way == Stroke::Down ? Swept{thick, thin} : Swept{thin, thick};
}

} // namespace

std::optional<Swept> sweptBy(int strings, const Rows& rows, std::size_t note) {
    const Stroke way = rows[note].plan.stroke.value;
    if (!rows[note].note.has(Technique::GhostStroke) || !hasDirection(way))
        return std::nullopt;
    const double at_s = rows[note].note.onset_s();
    std::size_t before = note;
    std::size_t after = note + 1;
    const auto away = [&](std::size_t i) { return std::abs(rows[i].note.onset_s() - at_s); };
    while (true) {
        const bool back = before > 0 && away(before - 1) <= kReach_s;
        const bool on = after < rows.size() && away(after) <= kReach_s;
        if (!back && !on)
            break;
        const bool take_back = back && (!on || away(before - 1) <= away(after));
        const std::size_t at = take_back ? --before : after++;
        // A strum is looked at from its first note on.
        if (at > 0 && beginTogether(rows[at - 1].note.onset_s(), rows[at].note.onset_s()))
            continue;
        if (const auto strum = strumAt(rows, at, way))
            return strum;
    }
    return way == Stroke::Down ? Swept{strings, 1} : Swept{1, strings};
}

std::vector<std::pair<std::size_t, Position>>
ghostPlaces(int strings, const Rows& rows, IndexSpan part) {
    std::vector<std::pair<std::size_t, Position>> places;
    for (std::size_t i = part.first; i < std::min(part.end, rows.size()); ++i)
        if (const auto swept = sweptBy(strings, rows, i); swept && !rows[i].plan.position.isSet())
            places.push_back({i, {swept->first, 0}});
    return places;
}

} // namespace wirenote
