// What was written from a piece, and whether it still says what the piece says.
#pragma once

#include "piece/piece.h"

#include <filesystem>
#include <string>
#include <vector>

namespace wirenote {

// A checksum of what a reading says: its notes, hands, bars and head. What is only evidence does
// not count.
std::string contentOf(const Piece& piece, std::size_t reading);

// Notes in the piece that a reading was written to a file: no edit, and nothing to undo.
void noteExport(Piece& piece, std::size_t reading, const std::filesystem::path& path);

// Those of Piece::exported that a reading no longer says, or whose reading is gone.
std::vector<Exported> outOfDate(const Piece& piece);

} // namespace wirenote
