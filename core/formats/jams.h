#pragma once

#include "piece/piece.h"

#include <string>

namespace wirenote {

// JAMS (Humphrey et al., "JAMS: a JSON annotated music specification for reproducible MIR
// research", ISMIR 2014): namespaces note_midi and beat, string and fret in the sandbox. The layout
// is written down from memory of the paper and checked against the schema excerpt in
// tests/data/jams-excerpt.schema.json.
std::string writeJams(const Piece& piece);

} // namespace wirenote
