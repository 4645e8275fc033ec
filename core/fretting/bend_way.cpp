#include "fretting/bend_way.h"

#include <array>

namespace wirenote {
namespace {

// What the hand does elsewhere while a note is bent.
struct Elsewhere {
    std::array<bool, kMaxStrings + 2> sounds{}; // [string]
    std::array<bool, 8> busy{};                 // [finger]
};

Elsewhere elsewhere(const Rows& rows, std::size_t row) {
    Elsewhere found;
    const TimeRange bent = rows[row].note.time.value;
    for (std::size_t i = 0; i < rows.size(); ++i) {
        const auto& [note, plan] = rows[i];
        if (i == row || !plan.placed() || note.offset_s() <= bent.start_s)
            continue;
        if (note.onset_s() >= bent.end_s)
            break;
        if (plan.position.value.string == rows[row].plan.position.value.string)
            continue;
        found.sounds[static_cast<std::size_t>(plan.position.value.string)] = true;
        found.busy[static_cast<std::size_t>(plan.finger.value)] = true;
    }
    return found;
}

} // namespace

std::optional<BendWay> bendWay(const Instrument& instrument, const Rows& rows, std::size_t row) {
    if (row >= rows.size())
        return {};
    const auto& [note, plan] = rows[row];
    const Finger finger = plan.finger.value;
    if (!note.has(Technique::Bend) || !plan.placed() || plan.position.value.fret == 0 ||
        finger < Finger::Index || finger > Finger::Little)
        return {};
    const Elsewhere others = elsewhere(rows, row);
    BendWay way;
    way.finger = finger;
    for (int f = static_cast<int>(finger) - 1; f >= static_cast<int>(Finger::Index); --f)
        if (!others.busy[static_cast<std::size_t>(f)])
            way.behind.push_back(static_cast<Finger>(f));
    const int string = plan.position.value.string;
    const int last = instrument.stringCount();
    const auto free = [&](int neighbour) {
        return !others.sounds[static_cast<std::size_t>(neighbour)];
    };
    way.to_thicker = 2 * string <= last + 1;
    if (string > 1 && string < last) {
        const int towards = way.to_thicker ? string + 1 : string - 1;
        const int away = way.to_thicker ? string - 1 : string + 1;
        if (!free(towards) && free(away))
            way.to_thicker = !way.to_thicker;
    } else if (last > 1) {
        way.to_thicker = string == 1;
    }
    const int met = way.to_thicker ? string + 1 : string - 1;
    if (met >= 1 && met <= last && !free(met))
        way.against = met;
    return way;
}

} // namespace wirenote
