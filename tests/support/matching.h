// How many notes of a truth were heard.
#pragma once

#include "piece/piece.h"

#include <cmath>
#include <vector>

namespace wirenote::test {

// Notes found within 50 ms and half a semitone, each used once.
inline std::size_t matched(const Piece& truth, const Piece& heard) {
    std::vector<bool> used(heard.notes.size(), false);
    std::size_t hits = 0;
    for (const Note& t : truth.notes)
        for (std::size_t i = 0; i < heard.notes.size(); ++i)
            if (!used[i] && std::abs(heard.notes[i].onset_s() - t.onset_s()) < 0.05 &&
                heard.notes[i].midi() == t.midi()) {
                used[i] = true;
                ++hits;
                break;
            }
    return hits;
}

inline double noteF1(const Piece& truth, const Piece& heard) {
    return 2.0 * static_cast<double>(matched(truth, heard)) /
           static_cast<double>(truth.notes.size() + heard.notes.size());
}

} // namespace wirenote::test
