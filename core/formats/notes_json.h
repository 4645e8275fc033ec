#pragma once

#include "base/result.h"
#include "piece/piece.h"

#include <string>

namespace wirenote {

// "wirenote-notes/1": notes with times, pitches, places, fingers, strokes and techniques.
std::string writeNotesJson(const Piece& piece);

// A place, finger or stroke in the file keeps the confidence given with it; without one it counts
// as set.
Result<Piece> readNotesJson(const std::string& text);

} // namespace wirenote
