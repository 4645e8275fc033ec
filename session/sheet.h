// A piece as pages.
#pragma once

#include "engraving/ink.h"
#include "piece/piece.h"
#include "score/sheet.h"

#include <utility>
#include <vector>

namespace wirenote {

// What its sheet says, chords too, by the style that the piece keeps.
Sheet sheetOf(const Piece& piece, CountSchool school = CountSchool::Numbers);

// The same laid out.
std::vector<SheetPage> pagesOf(const Piece& piece, CountSchool school = CountSchool::Numbers);

// Tabs of stretches of bars (first and last number of each), every one on a page of its own, with
// the numbers that the bars have.
std::vector<SheetPage> excerptPages(const Piece& piece,
                                    const std::vector<std::pair<int, int>>& stretches);

} // namespace wirenote
