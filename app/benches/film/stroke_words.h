// What a film shows of where strokes come from, in words.
#pragma once

#include "piece/piece.h"

#include <QString>

namespace wirenote::app {

// Of one stroke; empty where it is not seen.
QString sourceWords(const SeenFacts& seen);
// The rule in a take's film; empty where there is none.
QString habitWords(const Piece& piece, std::size_t take);

} // namespace wirenote::app
