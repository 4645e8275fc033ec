#include "fretting/conditions.h"

#include "fretting/part_line.h"
#include "fretting/placing.h"
#include "fretting/solver.h"
#include "fretting/wishes.h"

#include <algorithm>
#include <array>

namespace wirenote {
namespace {

constexpr double kAtOnce_s = 0.03; // a stroke is over by then
constexpr double kSlower = 0.5;
constexpr double kFaster = 2.0;

HandModel modelUnder(Condition when, const HandModel& model) {
    switch (when) {
    case Condition::Slower:
        return wishedModel(model, {WishKind::Tempo, kSlower});
    case Condition::Faster:
        return wishedModel(model, {WishKind::Tempo, kFaster});
    case Condition::SmallerHand:
        return handOfSize(model, kSmallHand);
    case Condition::LargerHand:
        return handOfSize(model, 1.0 / kSmallHand);
    case Condition::NothingBefore:
    case Condition::NothingAfter:
    case Condition::NothingRings:
        break;
    }
    return model;
}

// The line without what the condition takes away; `at`: the note that is asked about, in both.
std::vector<LineNote> lineUnder(Condition when, std::vector<LineNote> line, std::size_t& at) {
    const double now_s = line[at].onset_s;
    if (when == Condition::NothingAfter)
        std::erase_if(line, [&](const LineNote& n) { return n.onset_s > now_s + kAtOnce_s; });
    if (when == Condition::NothingBefore) {
        const auto stroke = std::ranges::find_if(
            line, [&](const LineNote& n) { return n.onset_s >= now_s - kAtOnce_s; });
        at -= static_cast<std::size_t>(stroke - line.begin());
        line.erase(line.begin(), stroke);
    }
    if (when == Condition::NothingRings)
        for (LineNote& note : line)
            if (note.onset_s < now_s - kAtOnce_s)
                note.offset_s = std::min(note.offset_s, now_s);
    return line;
}

} // namespace

std::vector<OtherCondition> otherConditions(const Instrument& instrument,
                                            const Rows& rows,
                                            const std::vector<StringTrait>& traits,
                                            const ReadingHead& head,
                                            std::size_t row) {
    if (row >= rows.size() || !rows[row].plan.placed())
        return {};
    const NotePlan& plan = rows[row].plan;
    const IndexSpan part = neighbourhood(rows.notes(), rows[row].note.onset_s());
    const Way way = wayOf(head, instrument, rows);
    const auto [line, first] = partLine(instrument, rows, traits, part, way.as_heard, true);
    std::vector<OtherCondition> found;
    for (const Condition when : {Condition::Slower,
                                 Condition::Faster,
                                 Condition::SmallerHand,
                                 Condition::LargerHand,
                                 Condition::NothingBefore,
                                 Condition::NothingAfter,
                                 Condition::NothingRings}) {
        std::size_t at = row - first;
        const auto otherwise = lineUnder(when, line, at);
        const auto there = solveLine(instrument, otherwise, modelUnder(when, way.model)).notes[at];
        if (there.possible &&
            (there.position != plan.position.value || there.finger != plan.finger.value))
            found.push_back({when, there.position, there.finger});
    }
    return found;
}

} // namespace wirenote
