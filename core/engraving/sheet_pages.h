// A sheet laid out on pages.
#pragma once

#include "engraving/ink.h"
#include "engraving/measures.h"
#include "score/sheet.h"

namespace wirenote {

// What stands where on every page, by the style of the piece (Piece::sheet). At least one page.
std::vector<SheetPage> layOutSheet(const Piece& piece, const Sheet& sheet);

} // namespace wirenote
