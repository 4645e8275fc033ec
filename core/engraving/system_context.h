// One line of music while it is being drawn.
#pragma once

#include "engraving/columns.h"

#include <algorithm>

namespace wirenote {

struct SystemContext {
    const Piece& piece;
    const Sheet& sheet;
    const Measures& m;
    std::vector<SetBar> bars; // placed; the system begins at x = 0
    double width = 0.0;
    bool first = false; // of the piece
    bool last = false;

    const SheetStyle& style() const { return piece.sheet; }
    double lineY(int string) const { return (string - 1) * m.line_gap; }
    double tabHeight() const { return lineY(piece.instrument.stringCount()); }
    // The middle of the column where this place of the score stands; nothing where it is in no bar
    // of this system, or between columns.
    const Column* columnAt(Rational at) const {
        for (const SetBar& bar : bars)
            if (bar.print.as_bar == 0 && at >= bar.bar->start &&
                at < bar.bar->start + bar.bar->length) {
                const auto found = std::ranges::lower_bound(bar.columns, at, {}, &Column::at);
                return found != bar.columns.end() && found->at == at ? &*found : nullptr;
            }
        return nullptr;
    }
    // The same, or the last one before it in this system where none stands there (what is played
    // from one place of the sheet several times).
    const Column* columnUpTo(Rational at) const {
        const Column* before = nullptr;
        for (const SetBar& bar : bars)
            for (const Column& column : bar.columns)
                if (column.at <= at && bar.print.as_bar == 0)
                    before = &column;
        return before;
    }
    // What begins at each column, in both voices: indices of notes, by string, the thinnest first.
    struct Struck {
        const Column* column = nullptr;
        std::vector<std::size_t> notes;
    };
    std::vector<Struck> struck() const;
};

} // namespace wirenote
