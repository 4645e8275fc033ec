// A piece as pages.
#pragma once

#include "engraving/ink.h"
#include "piece/piece.h"
#include "score/sheet.h"

#include <vector>

namespace wirenote {

// What its sheet says, chords too, by the style that the piece keeps.
Sheet sheetOf(const Piece& piece, CountSchool school = CountSchool::Numbers);

// The same laid out.
std::vector<SheetPage> pagesOf(const Piece& piece, CountSchool school = CountSchool::Numbers);

// A tab of these bars alone on one wide page, with the numbers that they have.
SheetPage excerptPage(const Piece& piece, int first_bar, int last_bar);

} // namespace wirenote
