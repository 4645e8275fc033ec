#pragma once

#include "base/result.h"
#include "piece/piece.h"

#include <string>

namespace wirenote {

constexpr const char* kPieceFormat = "wirenote-piece/2";      // docs/piece-format.md
constexpr const char* kFirstPieceFormat = "wirenote-piece/1"; // still read

// The whole piece, every decision with its basis, probability, runners-up and reasons.
std::string writePieceJson(const Piece& piece);
// Everything is checked (checkPiece) before it is returned.
Result<Piece> readPieceJson(const std::string& text);

} // namespace wirenote
