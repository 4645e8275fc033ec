#pragma once

#include "piece/piece.h"

namespace wirenote {

enum class PluckingTool { Pick, Fingers };

// Picks for guitars, fingers for nylon strings and basses, unless a person says otherwise.
PluckingTool usualTool(InstrumentKind kind);

// Gives every note that no person has decided a stroke: with a pick, down on the beat and on its
// even parts, up in between (common practice); with fingers, index and middle in turn, the thumb on
// the three thickest strings of a guitar. Slurred notes get none. Marked "reasoned", with the low
// probability a rule without evidence deserves.
void alternateStrokes(Piece& piece, PluckingTool tool);

} // namespace wirenote
