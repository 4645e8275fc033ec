#pragma once

#include "piece/piece.h"

namespace wirenote {

// Picks for guitars, fingers for nylon strings and basses.
PluckingTool usualTool(InstrumentKind kind);

// What the notes themselves say of it, as placed: strings plucked at the same moment with others between them
// left out, or a bass under a tune on strings apart, are fingers; strokes across neighbouring
// strings are a pick. `usualTool` where they say nothing.
PluckingTool likelyTool(const Piece& piece);

// Gives every note that no person has decided a stroke. All notes of one attack with a pick share
// it. With a pick: the order in which the strings were heard, together with the rule that the hand
// moves down on the beat and on its even parts and up in between (common practice); which parts is
// what agrees best with the strokes that were heard. With fingers: the thumb has the three thickest
// strings of a guitar, index, middle and ring the others when chords are held (the usual p i m a
// of classical playing, common practice); on one line, and on a bass, index and middle take turns.
// Slurred notes get none. Marked "heard" or "reasoned", with the probability of what it rests on.
//
// The tool is the reading's. Where nobody has said it, the notes are asked, and once there are
// enough of them the answer is kept in the reading (basis "reasoned").
void planStrokes(Piece& piece);

} // namespace wirenote
