// Where the metre changes within a piece.
#pragma once

#include "piece/piece.h"

#include <optional>
#include <vector>

namespace wirenote {

struct ChangingBars {
    Timeline timeline;  // with the beats as they were, bars and changes of metre
    double ahead = 0.0; // what speaks for the changes, in the cost of one and a half of them
};

// Bars of two to five felt beats such that what begins a bar (downbeats: low and long notes, new
// harmony) falls on their first beats, changing no more often than that pays for: the likeliest way
// through the beats, where a change costs four beats as stressed as usual (Goto, "An audio-based
// real-time beat tracking system for music with or without drum-sounds", J. New Music Research 30,
// 2001, for what marks a bar). Nothing where one metre explains as much, or beats are in thirds.
std::optional<ChangingBars> changingBars(const std::vector<Note>& notes, const Timeline& timeline);

} // namespace wirenote
