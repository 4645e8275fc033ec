// Both hands of a piece that is at hand, for tests that are not about who may change a piece.
#pragma once

#include "fretting/placing.h"
#include "piece/piece.h"

namespace wirenote::test {

inline void placeAll(Piece& piece) {
    Placing placing =
        place(piece.instrument, piece.rows(), piece.string_traits, piece.asPlayed().head);
    piece.asPlayed().plans = std::move(placing.plans);
    piece.string_traits = std::move(placing.traits);
}

inline void placeAround(Piece& piece, double time_s) {
    const IndexSpan part = neighbourhood(piece.notes, time_s);
    const auto plans =
        placePart(piece.instrument, piece.rows(), piece.string_traits, piece.asPlayed().head, part);
    for (std::size_t i = 0; i < plans.size(); ++i)
        piece.asPlayed().plans[part.first + i] = plans[i];
}

} // namespace wirenote::test
