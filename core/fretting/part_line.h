// A part of a piece as the solver of places and fingers gets it.
#pragma once

#include "fretting/line_note.h"
#include "hand/hand_model.h"
#include "piece/one_stroke.h"
#include "piece/piece.h"

#include <vector>

namespace wirenote {

// How the hand is to play: its figures, and whether what was heard of strings counts.
struct Way {
    HandModel model;
    bool as_heard = true;
};
// By the school and the wish of a reading, and what a person's word tells of this player.
Way wayOf(const ReadingHead& head, const Instrument& instrument, const Rows& rows);

constexpr std::size_t kPartReach = 24; // notes on each side that a decision can matter to

// The notes of a part, and as many as matter on both sides, which stay as they are.
struct PartLine {
    std::vector<LineNote> line;
    std::size_t first = 0; // row of the first of them
};
// With `alike`, like strokes speak for each other as they are placed already.
PartLine partLine(const Instrument& instrument,
                  const Rows& rows,
                  const std::vector<StringTrait>& traits,
                  IndexSpan part,
                  bool as_heard,
                  bool alike);

} // namespace wirenote
