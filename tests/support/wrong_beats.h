// A piece whose beats were heard at another level than they are felt.
#pragma once

#include "support/pieces.h"

#include <array>

namespace wirenote::test {

// 64 eighths of 148 beats a minute, on beats of two thirds of that: triplets, as they were heard.
inline Piece twoThirdsOfTheTempo(const std::array<int, 8>& line) {
    constexpr double kTempo = 148.0;
    std::vector<Row> rows;
    for (std::size_t i = 0; i < 64; ++i) {
        const double at_s = 0.5 + static_cast<double>(i) * 30.0 / kTempo;
        rows.push_back({at_s, at_s + 0.15, line[i % line.size()]});
    }
    Piece piece = pieceOf(rows, kTempo * 2.0 / 3.0);
    piece.timeline.beats_s.clear();
    for (double t = 0.5; t < 15.0; t += 90.0 / kTempo)
        piece.timeline.beats_s.push_back(t);
    return piece;
}

} // namespace wirenote::test
