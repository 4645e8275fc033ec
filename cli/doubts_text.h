// The doubts of a piece as lines of text.
#pragma once

#include "piece/piece.h"

#include <string>

namespace wirenote {

// One line a question with its choices, likeliest first and the present one marked, then one line a
// doubt: seconds, what is in doubt, how urgent.
std::string doubtsText(const Piece& piece);

} // namespace wirenote
