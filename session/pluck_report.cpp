#include "session/pluck_report.h"

#include "piece/one_stroke.h"
#include "plucking/strokes.h"
#include "plucking/tool_changes.h"
#include "session/bar_of.h"
#include "session/hand_picture.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

bool isPicked(Stroke stroke) {
    return stroke == Stroke::Down || stroke == Stroke::Up;
}

IndexSpan attacksIn(const PluckedLine& line, TimeRange span) {
    const auto at = [&line](double time_s) {
        return static_cast<std::size_t>(
            std::ranges::lower_bound(line.plucks(), time_s, {}, &Pluck::onset_s) -
            line.plucks().begin());
    };
    return {at(span.start_s), at(span.end_s)};
}

Stroke strokeAt(const PluckedLine& line, std::size_t attack) {
    return line.rows()[line.at(attack).notes.front()].plan.stroke.value;
}

NoteId firstNoteAt(const PluckedLine& line, std::size_t attack) {
    return line.rows()[line.at(attack).notes.front()].note.id;
}

// From the last stroke of a part to the first of what follows: the attack after it, where one
// begins `next_s`, or its own first one, round a loop.
std::optional<BarJoin>
joinOf(const PluckedLine& line, IndexSpan part, std::optional<double> next_s) {
    if (part.size() == 0 || (next_s && part.end >= line.size()))
        return std::nullopt;
    const std::size_t next = next_s ? part.end : part.first;
    BarJoin join{
        strokeAt(line, part.end - 1), strokeAt(line, next), firstNoteAt(line, next), false};
    if (!isPicked(join.last) || !isPicked(join.next))
        return std::nullopt;
    constexpr double kOnBeat_s = 0.1;
    join.begins_up = join.next == Stroke::Up &&
                     (!next_s || std::abs(line.at(next).onset_s - *next_s) < kOnBeat_s);
    return join;
}

// What the school would have if nobody had set the stroke of this attack.
Stroke withoutTheWord(const Piece& piece, const PluckedLine& line, std::size_t attack) {
    Reading open = piece.asPlayed();
    for (const std::size_t n : line.at(attack).notes)
        open.plans[n].stroke = {};
    const auto& notes = line.at(attack).notes;
    const IndexSpan part{notes.front(), notes.back() + 1};
    const auto found =
        strokesOfPart(piece.instrument, piece.timeline, {piece.notes, open.plans}, open.head, part);
    return found.strokes.front().value;
}

// What is to be said of the chosen note's own stroke.
void addTheStroke(
    const Piece& piece, const PluckedLine& line, IndexSpan bar, NoteId id, PluckReport& report) {
    const NotePlan& plan = *piece.plan(id);
    for (std::size_t i = bar.first; i < bar.end; ++i) {
        const bool here = std::ranges::any_of(
            line.at(i).notes, [&](std::size_t n) { return line.rows()[n].note.id == id; });
        if (!here)
            continue;
        report.strum = strumShape(line, i);
        if (!plan.stroke.isSet())
            continue;
        report.otherwise = withoutTheWord(piece, line, i);
        if (report.otherwise != plan.stroke.value)
            report.departure = departureAt(line, i);
    }
}

// The second best way through a bar as a whole; empty where there is only one.
std::vector<BarStroke> nextBest(const Piece& piece, const PluckedLine& line, IndexSpan bar) {
    if (bar.size() == 0)
        return {};
    const IndexSpan part{line.at(bar.first).notes.front(), line.at(bar.end - 1).notes.back() + 1};
    const Rows rows = piece.rows();
    const auto ways =
        strokeWays(piece.instrument, piece.timeline, rows, piece.asPlayed().head, part, 2);
    for (const auto& way : ways) {
        std::vector<BarStroke> strokes;
        bool other = false;
        for (std::size_t k = 0; k < way.size(); ++k) {
            const auto& [note, plan] = rows[part.first + k];
            const bool together =
                k > 0 && beginTogether(rows[part.first + k - 1].note.onset_s(), note.onset_s());
            strokes.push_back({note.id, way[k], way[k] != plan.stroke.value, !together});
            other = other || strokes.back().differs;
        }
        if (other)
            return strokes;
    }
    return {};
}

} // namespace

PluckReport pluckReport(const Piece& piece, NoteId id, std::optional<TimeRange> loop) {
    PluckReport report;
    const Note* note = piece.note(id);
    if (!note)
        return report;
    const BarOf here = barOf(piece, *note);
    report.bar = here.number;
    const PluckedLine line(piece.instrument, piece.timeline, piece.rows());
    const IndexSpan bar = attacksIn(line, here.span);
    report.load = pluckLoad(line, bar);
    report.levels = pluckLoad(line, {0, line.size()}).levels;
    report.path = pickPath(line, bar);
    report.join = joinOf(line, bar, here.next_s);
    for (Cell& cell : cellsOf(piece))
        if (cell.first_bar <= report.bar && report.bar <= cell.last_bar)
            report.cell = std::move(cell);
    for (const ThumbGap& gap : thumbGaps(piece))
        if (gap.bar == report.bar)
            report.thumb_gaps.push_back(gap);
    const ReadingHead& head = piece.asPlayed().head;
    if (head.tool.value == PluckingTool::Pick)
        report.fits = schoolFits(line,
                                 attacksIn(line, sectionAt(piece.timeline, note->onset_s())),
                                 head.motion.value_or(HandMotion{}));
    addTheStroke(piece, line, bar, id, report);
    for (const ToolChange& change : toolChanges(line))
        if (change.attack >= bar.first && change.attack < bar.end)
            report.pick_moves.push_back(
                {firstNoteAt(line, change.attack), change.tucked, change.time_s});
    report.next_best = nextBest(piece, line, bar);
    report.silent = silentStrokes(piece, here.number);
    report.balance = balanceOf(piece);
    if (loop)
        report.round = joinOf(line, attacksIn(line, *loop), std::nullopt);
    return report;
}

} // namespace wirenote
