// A root, its fifth, and perhaps the octave: what riffs are made of.
#pragma once

#include <algorithm>
#include <vector>

namespace wirenote {

// Of what is struck together, in any order, as MIDI numbers.
inline bool isFifth(std::vector<int> pitches) {
    constexpr int kFifth = 7; // semitones
    constexpr int kOctave = 12;
    std::ranges::sort(pitches);
    return pitches.size() >= 2 && pitches.size() <= 3 && pitches[1] - pitches[0] == kFifth &&
           (pitches.size() == 2 || pitches[2] - pitches[0] == kOctave);
}

} // namespace wirenote
