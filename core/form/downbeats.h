// Where the bars begin, when nobody has said so.
#pragma once

#include "piece/piece.h"

namespace wirenote {

// How much each beat brings of what begins a bar (low and long notes, new harmony, loudness), in
// deviations over all beats, −2 to 2.
std::vector<double> beatSalience(const std::vector<Note>& notes,
                                 const std::vector<double>& beats_s);

// How much speaks for each of the first `beats_per_bar` beats to be "one", counted from the first
// beat, in deviations of the mean; empty where nothing can be said.
std::vector<double> downbeatScores(const std::vector<Note>& notes,
                                   const std::vector<double>& beats_s,
                                   int beats_per_bar);

// Which beat of each bar of so many is "one": 0 to beats_per_bar − 1, counted from the first beat.
// Bass notes, long notes and new harmony fall on it rather than elsewhere, and most pieces begin
// with it or with less than half a bar before it (common practice; Goto, "An audio-based real-time
// beat tracking system for music with or without drum-sounds", J. New Music Research 30, 2001, uses
// chord changes in the same way).
int likeliestDownbeat(const std::vector<Note>& notes,
                      const std::vector<double>& beats_s,
                      int beats_per_bar);

} // namespace wirenote
