#include "score/bar_cells.h"

#include "score/repeats.h"

#include <algorithm>
#include <functional>

namespace wirenote {
namespace {

constexpr std::size_t kFewestInCell = 2; // strokes
constexpr std::size_t kFewestTwice = 3;  // … of a cell that is there only twice
constexpr std::int64_t kMostCells = 16;

// The values of one voice that begin in a cell; nothing where one reaches over its end.
std::optional<std::vector<Value>>
valuesIn(const std::vector<Value>& values, Rational from, Rational to) {
    std::vector<Value> inside;
    for (const Value& value : values) {
        if (value.start >= to || value.start + value.length <= from)
            continue;
        if (value.start < from || value.start + value.length > to)
            return std::nullopt;
        inside.push_back(value);
    }
    if (!inside.empty() && (inside.front().tied_from_before || inside.back().tied_to_next))
        return std::nullopt;
    return inside;
}

class Cutter {
  public:
    Cutter(const Piece& piece, Sheet& sheet) : m_piece(piece), m_sheet(sheet) {}

    void cut(PrintedBar& print) const {
        Bar& bar = m_sheet.score.bars[print.bar];
        if (print.as_bar > 0 || bar.length != bar.metre.barLength())
            return;
        for (std::int64_t times = std::min<std::int64_t>(kMostCells, bar.metre.beats); times >= 2;
             --times) {
            const Rational cell = bar.length / Rational(times);
            if ((cell / bar.metre.beatLength()).den() != 1 || !isCell(bar, cell, times))
                continue;
            print.cell = cell;
            print.cells = static_cast<int>(times);
            for (auto* voice : {&bar.values, &bar.lower})
                if (!voice->empty())
                    *voice = *valuesIn(*voice, Rational(0), cell);
            return;
        }
    }

  private:
    bool isCell(const Bar& bar, Rational cell, std::int64_t times) const {
        std::size_t strokes = 0;
        for (const auto* voice : {&bar.values, &bar.lower}) {
            if (voice->empty())
                continue;
            std::string first;
            for (std::int64_t k = 0; k < times; ++k) {
                const Rational from = cell * Rational(k);
                const auto values = valuesIn(*voice, from, from + cell);
                if (!values || comesSlurred(*values))
                    return false;
                const std::string written = writtenAs(m_piece, *values, from);
                if (k == 0) {
                    first = written;
                    strokes += static_cast<std::size_t>(
                        std::ranges::count_if(*values, [](const Value& v) { return !v.rest(); }));
                } else if (written != first) {
                    return false;
                }
            }
        }
        return strokes >= (times == 2 ? kFewestTwice : kFewestInCell) &&
               nothingBegins(bar.start + cell, bar.start + bar.length);
    }

    // From the cell before: printed once, it would come from nowhere.
    bool comesSlurred(const std::vector<Value>& values) const {
        const auto first = std::ranges::find_if(values, [](const Value& v) { return !v.rest(); });
        return first != values.end() && std::ranges::any_of(first->notes, [&](std::size_t i) {
                   return m_piece.notes[i].slurred();
               });
    }

    bool nothingBegins(Rational from, Rational to) const {
        const auto none = [&](const auto& signs, auto at) {
            return std::ranges::none_of(signs, [&](const auto& sign) {
                const Rational place = std::invoke(at, sign);
                return place >= from && place < to;
            });
        };
        return none(m_sheet.chords, &ChordSign::at) && none(m_sheet.positions, &PositionSign::at) &&
               none(m_sheet.marks, &MarkSign::from) && none(m_sheet.marks, &MarkSign::to);
    }

    const Piece& m_piece;
    Sheet& m_sheet;
};

} // namespace

void cutToCells(const Piece& piece, Sheet& sheet) {
    const Cutter cutter(piece, sheet);
    for (PrintedBar& print : sheet.bars)
        cutter.cut(print);
}

} // namespace wirenote
