#pragma once

#include "piece/piece.h"

#include <string>

namespace wirenote {

// A tab of plain characters, thinnest string on top, at most `width` columns where a bar fits.
// h, p and / stand before the fret a hammer-on, pull-off or slide arrives at; x is a dead note.
std::string writeAsciiTab(const Piece& piece, int width = 78);

} // namespace wirenote
