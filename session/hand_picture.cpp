#include "session/hand_picture.h"

#include "plucking/ghost_strings.h"
#include "plucking/plucked_line.h"

#include <algorithm>
#include <cmath>
#include <tuple>

namespace wirenote {
namespace {

bool isPicked(Stroke stroke) {
    return stroke == Stroke::Down || stroke == Stroke::Up;
}

Stroke strokeAt(const PluckedLine& line, std::size_t attack) {
    return line.rows()[line.at(attack).notes.front()].plan.stroke.value;
}

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

// What films show of silent strokes: those that were inferred are seen, others are added.
void addPasses(const Piece& piece, std::vector<HandTurn>& turns) {
    constexpr double kSame_s = 0.09;
    constexpr double kLikely = 0.5;
    for (const Take& take : piece.takes)
        for (const SilentPass& pass : take.film.passes) {
            if (pass.probability * take.film.trust < kLikely)
                continue;
            const double at_s = take.alignment.toPiece({pass.time_s}).s;
            const auto next =
                std::ranges::lower_bound(turns, at_s - kSame_s, {}, &HandTurn::time_s);
            if (next != turns.end() && next->time_s < at_s + kSame_s) {
                if (next->note == 0 && next->down == pass.down)
                    next->seen = true;
                continue;
            }
            turns.insert(std::ranges::upper_bound(turns, at_s, {}, &HandTurn::time_s),
                         {at_s, pass.down, 0, false, true});
        }
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
    if (!picture.turns.empty())
        addPasses(piece, picture.turns);
    picture.cells = cellsOf(piece);
    return picture;
}

} // namespace wirenote
