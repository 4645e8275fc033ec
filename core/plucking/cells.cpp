#include "plucking/cells.h"

#include "base/interpolate.h"
#include "plucking/attacks.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

namespace wirenote {
namespace {

constexpr int kExceptionEvery = 4; // bars
constexpr std::size_t kFewest = 2; // strokes of a cell

using Pattern = std::vector<CellStroke>;

bool alike(const Pattern& a, const Pattern& b) {
    return std::ranges::equal(
        a, b, [](const CellStroke& x, const CellStroke& y) { return x.sameStrokes(y); });
}

bool sameStrings(const Pattern& a, const Pattern& b) {
    return std::ranges::equal(a, b, {}, &CellStroke::strings, &CellStroke::strings);
}

// The nearest of the halves, thirds and quarters of a beat.
int slotOf(double beats) {
    constexpr std::array kParts = {0, 3, 4, 6, 8, 9, 12};
    const double whole = std::floor(beats);
    const double part = (beats - whole) * kCellSlots;
    int best = 0;
    for (const int candidate : kParts)
        if (std::abs(candidate - part) < std::abs(best - part))
            best = candidate;
    return static_cast<int>(whole) * kCellSlots + best;
}

struct BarPattern {
    int beats = 4;
    Pattern strokes;
};

CellStroke strokeAt(const Rows& rows, const Attack& attack, int slot) {
    auto notes = attack.notes;
    std::ranges::stable_sort(notes, std::ranges::greater{}, [&rows](std::size_t n) {
        return rows[n].plan.position.value.string;
    });
    CellStroke stroke{slot, {}, {}};
    for (const std::size_t n : notes) {
        const Stroke value = rows[n].plan.stroke.value;
        const bool picked = value == Stroke::Down || value == Stroke::Up;
        if (!picked || stroke.strokes.empty() || stroke.strokes.back() != value)
            stroke.strokes.push_back(value);
        stroke.strings.push_back(rows[n].plan.position.value.string);
    }
    return stroke;
}

std::map<int, BarPattern> patternsOf(const Piece& piece, const Rows& rows) {
    std::map<int, BarPattern> bars;
    if (piece.timeline.beats_s.size() < 2)
        return bars;
    const BarGrid grid(piece.timeline);
    for (const Attack& attack : attacksOf(rows.notes())) {
        const int slot = slotOf(placeAmong(piece.timeline.beats_s, attack.onset_s));
        const int beat = slot >= 0 ? slot / kCellSlots : -((-slot + kCellSlots - 1) / kCellSlots);
        const auto place = grid.at(beat);
        BarPattern& bar = bars[place.bar];
        bar.beats = place.metre.feltBeats();
        bar.strokes.push_back(
            strokeAt(rows, attack, place.beat * kCellSlots + slot - beat * kCellSlots));
    }
    return bars;
}

// The first half, where the second is struck alike.
Cell shortened(Cell cell) {
    const int half = cell.beats * kCellSlots / 2;
    if (cell.beats % 2 != 0)
        return cell;
    Pattern first;
    Pattern second;
    for (CellStroke stroke : cell.strokes) {
        const bool late = stroke.slot >= half;
        stroke.slot -= late ? half : 0;
        (late ? second : first).push_back(std::move(stroke));
    }
    if (first.size() < kFewest || !alike(first, second))
        return cell;
    cell.strokes = std::move(first);
    cell.beats /= 2;
    return cell;
}

} // namespace

std::vector<Cell> cellsOf(const Piece& piece, std::size_t reading) {
    const auto bars = patternsOf(piece, piece.rows(reading));
    std::vector<Cell> cells;
    const auto patternAt = [&bars](int bar) -> const BarPattern* {
        const auto found = bars.find(bar);
        return found == bars.end() ? nullptr : &found->second;
    };
    for (auto at = bars.begin(); at != bars.end();) {
        const auto& [first_bar, pattern] = *at;
        Cell cell{first_bar, first_bar, pattern.beats, pattern.strokes, {}, {}};
        int met = 1;
        for (int bar = first_bar + 1;; ++bar) {
            const BarPattern* here = patternAt(bar);
            const BarPattern* next = patternAt(bar + 1);
            if (here && alike(here->strokes, cell.strokes)) {
                ++met;
                cell.last_bar = bar;
                if (!sameStrings(here->strokes, cell.strokes))
                    cell.moved.push_back(bar);
                continue;
            }
            const bool comes_back = here && next && alike(next->strokes, cell.strokes);
            const auto allowed = static_cast<std::size_t>(met / (kExceptionEvery - 1));
            if (!comes_back || cell.exceptions.size() >= allowed)
                break;
            cell.exceptions.push_back(bar);
        }
        if (met > 1 && cell.strokes.size() >= kFewest)
            cells.push_back(shortened(cell));
        at = bars.upper_bound(std::max(first_bar, met > 1 ? cell.last_bar : first_bar));
    }
    return cells;
}

} // namespace wirenote
