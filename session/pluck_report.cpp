#include "session/pluck_report.h"

#include "plucking/motion.h"
#include "plucking/strokes.h"
#include "session/bar_of.h"

#include <algorithm>
#include <cmath>
#include <tuple>

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

std::optional<BarJoin> joinAfter(const PluckedLine& line, IndexSpan bar, double next_s) {
    if (bar.size() == 0 || bar.end >= line.size())
        return std::nullopt;
    const Pluck& first = line.at(bar.end);
    BarJoin join{strokeAt(line, bar.end - 1),
                 strokeAt(line, bar.end),
                 line.rows()[first.notes.front()].note.id,
                 false};
    if (!isPicked(join.last) || !isPicked(join.next))
        return std::nullopt;
    join.begins_up = join.next == Stroke::Up && std::abs(first.onset_s - next_s) < 0.1;
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

TimeRange sectionOf(const Piece& piece, double time_s) {
    for (const Section& section : piece.timeline.sections)
        if (section.span.contains(time_s))
            return section.span;
    return {-1e9, 1e9};
}

} // namespace

PluckReport pluckReport(const Piece& piece, NoteId id) {
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
    report.join = joinAfter(line, bar, here.next_s);
    for (Cell& cell : cellsOf(piece))
        if (cell.first_bar <= report.bar && report.bar <= cell.last_bar)
            report.cell = std::move(cell);
    for (const ThumbGap& gap : thumbGaps(piece))
        if (gap.bar == report.bar)
            report.thumb_gaps.push_back(gap);
    const ReadingHead& head = piece.asPlayed().head;
    if (head.tool.value == PluckingTool::Pick)
        report.fits = schoolFits(line,
                                 attacksIn(line, sectionOf(piece, note->onset_s())),
                                 head.motion.value_or(HandMotion{}));
    const NotePlan* plan = piece.plan(id);
    for (std::size_t i = bar.first; plan->stroke.isSet() && i < bar.end; ++i)
        for (const std::size_t n : line.at(i).notes)
            if (piece.notes[n].id == id) {
                report.otherwise = withoutTheWord(piece, line, i);
                if (report.otherwise != plan->stroke.value)
                    report.departure = departureAt(line, i);
            }
    return report;
}

namespace {

void addTurn(const PluckedLine& line, std::size_t i, bool down, std::vector<HandTurn>& turns) {
    constexpr double kMostBeats = 1.05; // of a hand that goes on
    const Pluck& now = line.at(i);
    if (!turns.empty() && i > 0 && now.beats_since <= kMostBeats) {
        const double slot = std::min(now.slot, line.at(i - 1).slot);
        auto silent = std::max(1L, std::lround(now.beats_since / slot)) - 1;
        const bool same = turns.back().down == down;
        if ((silent % 2 == 1) != same)
            silent = same ? 1 : 0;
        const double from_s = turns.back().time_s;
        const double step_s = (now.onset_s - from_s) / static_cast<double>(silent + 1);
        for (long k = 1; k <= silent; ++k)
            turns.push_back(
                {from_s + step_s * static_cast<double>(k), !turns.back().down, 0, false});
    }
    turns.push_back({now.onset_s, down, line.rows()[now.notes.front()].note.id, now.ghost});
}

PickPoint pickPointAt(const PluckedLine& line, std::size_t i, bool down) {
    constexpr double kRests_s = 0.9;
    const Pluck& now = line.at(i);
    const std::size_t first = now.notes.front();
    PickPoint point{now.onset_s, 0, 0, line.rows()[first].note.id, now.gap_s < kRests_s};
    if (now.ghost) {
        if (const auto swept = sweptBy(line.instrument().stringCount(), line.rows(), first))
            std::tie(point.first, point.last) = std::pair(swept->first, swept->last);
    } else if (!now.strings.empty()) {
        point.first = down ? now.strings.front() : now.strings.back();
        point.last = down ? now.strings.back() : now.strings.front();
    }
    return point;
}

} // namespace

HandPicture handPicture(const Piece& piece) {
    HandPicture picture;
    const PluckedLine line(piece.instrument, piece.timeline, piece.rows());
    std::vector<std::size_t> point_of(line.size(), line.size());
    for (std::size_t i = 0; i < line.size(); ++i) {
        for (const std::size_t n : line.at(i).notes)
            if (const Stroke stroke = line.rows()[n].plan.stroke.value;
                stroke >= Stroke::P && stroke <= Stroke::C)
                picture.fingers.push_back({line.at(i).onset_s, stroke, line.rows()[n].note.id});
        const Stroke stroke = strokeAt(line, i);
        if (!isPicked(stroke))
            continue;
        addTurn(line, i, stroke == Stroke::Down, picture.turns);
        point_of[i] = picture.pick.size();
        picture.pick.push_back(pickPointAt(line, i, stroke == Stroke::Down));
    }
    for (const StringChange& change : pickPath(line, {0, line.size()}))
        if (point_of[change.attack] < picture.pick.size()) {
            PickPoint& point = picture.pick[point_of[change.attack]];
            point.swept = change.swept;
            point.flips = change.flips;
            point.slant = change.slant;
        }
    picture.cells = cellsOf(piece);
    return picture;
}

} // namespace wirenote
