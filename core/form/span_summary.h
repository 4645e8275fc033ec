// What sounds in a stretch of the piece, in figures.
#pragma once

#include "music/scales.h"
#include "piece/piece.h"

#include <optional>
#include <vector>

namespace wirenote {

struct SpanSummary {
    std::size_t notes = 0;
    std::optional<KeyGuess> key;
    std::optional<KeyGuess> other_key; // that fits nearly as well
    Scale scale;
    std::vector<NoteId> outside; // of the scale, by onset
    // How much louder, in the middle, the highest of what begins together or rings is than the
    // lowest: the balance of melody and bass. Nothing for a single line.
    std::optional<double> melody_over_bass_db;
    // How much louder the stretch is, in the middle, than all of the piece.
    std::optional<double> over_piece_db;
};

// `span` empty: all of it. Strokes over damped strings do not count.
SpanSummary summarise(const Piece& piece, TimeRange span);

} // namespace wirenote
