// Repeat signs for what comes again at once.
#pragma once

#include "score/sheet.h"

#include <span>

namespace wirenote {

// All that is written of values, in a text that is the same for what is written alike, wherever it
// begins.
std::string writtenAs(const Piece& piece, std::span<const Value> values, Rational from);

// All bars, one after the other.
std::vector<PrintedBar> writtenOut(const Score& score);

// The same music with stretches that are followed by themselves printed once between repeat signs,
// with a first and a second ending where only their last bars differ. Bars are the same when they
// are written alike: places, values, fingers, strokes, techniques and marks. Longest stretches
// first; `keep`: where something begins (a section, another tempo) that must not be printed over.
std::vector<PrintedBar> folded(const Piece& piece,
                               const Score& score,
                               const std::vector<MarkSign>& marks,
                               const std::set<int>& keep);

// Bars that are written like one before them, or lack one or two of its notes, say so by its
// number. None of `keep`, and none of fewer than three strokes.
void shorten(const Piece& piece,
             const Score& score,
             const std::set<int>& keep,
             std::vector<PrintedBar>& bars);

} // namespace wirenote
