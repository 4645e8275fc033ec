#include "plucking/tool_changes.h"

namespace wirenote {

std::vector<ToolChange> toolChanges(const PluckedLine& line) {
    enum class Held { Unknown, Pick, Nothing } held = Held::Unknown;
    std::vector<ToolChange> changes;
    for (std::size_t i = 0; i < line.size(); ++i) {
        Held now = Held::Unknown;
        for (const std::size_t n : line.at(i).notes) {
            const Stroke stroke = line.rows()[n].plan.stroke.value;
            if (stroke == Stroke::Down || stroke == Stroke::Up)
                now = Held::Pick;
            else if (now == Held::Unknown && (stroke == Stroke::P || stroke == Stroke::I))
                now = Held::Nothing;
        }
        if (now == Held::Unknown)
            continue;
        if (held != Held::Unknown && now != held)
            changes.push_back({i, now == Held::Nothing, line.at(i).gap_s});
        held = now;
    }
    return changes;
}

} // namespace wirenote
