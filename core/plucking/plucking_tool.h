// What the strings are struck with and by which school, as far as the notes say.
#pragma once

#include "piece/reading.h"
#include "plucking/plucked_line.h"

namespace wirenote {

// Picks for guitars, fingers for nylon strings and basses.
PluckingTool usualTool(InstrumentKind kind);

// What they say of it, how sure, and why. First how the strokes sound (hearing/stroke_edges.h):
// hard as of a pick, or soft as of flesh; on nylon strings nails and picks sound too much alike.
// Then what is played, as placed: strings plucked at the same moment with others between them left
// out, or a bass under a tune on strings apart, are fingers; strokes across neighbouring strings,
// damped riffs and runs of one note a string are a pick. `usualTool` where nothing says anything.
Decision<PluckingTool> likelyTool(const PluckedLine& line);

// The school that goes with a tool: alternate with a pick, hybrid with both; with the fingers the
// alternating thumb where there is one, index and middle in turn on a bass, else pima.
PluckingSchool likelySchool(PluckingTool tool, const PluckedLine& line);

} // namespace wirenote
