// Names of chords as people write them down: bar by bar.
#pragma once

#include "base/result.h"
#include "piece/piece.h"

#include <string>
#include <vector>

namespace wirenote {

// "C | G7 | Am F | C" from bar `first_bar` on: the chords of a bar share it evenly, on beats where
// they can; "-" goes on with the one before, and a bar without any is left as it is. Errors: what
// is no name of a chord (a letter A to G, an accidental, what follows), more than eight in a bar,
// bars that lie nowhere in the piece.
Result<std::vector<NamedChord>>
chordsOfChart(const Timeline& timeline, int first_bar, const std::string& chart);

} // namespace wirenote
