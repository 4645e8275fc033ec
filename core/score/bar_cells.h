// Bars that say one cell over and over.
#pragma once

#include "score/sheet.h"

namespace wirenote {

// Cuts each printed bar that is written as one cell of whole beats, several times, down to the
// first: PrintedBar::cell says how long that is, `cells` how often it is played, and what the bar's
// values were after it is gone from the score. Nothing else may begin in what is cut: no chord,
// position or mark, and nothing may be tied or slurred into it. Two notes said twice are shorter
// than the sign over them, and stay.
void cutToCells(const Piece& piece, Sheet& sheet);

} // namespace wirenote
