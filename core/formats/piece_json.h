#pragma once

#include "base/result.h"
#include "piece/piece.h"

#include <array>
#include <string>
#include <string_view>

namespace wirenote {

constexpr const char* kPieceFormat = "wirenote-piece/3"; // docs/piece-format.md
// That can be read.
constexpr std::array<std::string_view, 3> kPieceFormats = {
    kPieceFormat, "wirenote-piece/2", "wirenote-piece/1"};

// The whole piece, every decision with its basis, probability, runners-up and reasons.
std::string writePieceJson(const Piece& piece);
// Everything is checked (checkPiece) before it is returned.
Result<Piece> readPieceJson(const std::string& text);

} // namespace wirenote
