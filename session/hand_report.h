// What one bar asks of the fretting hand, and what is kept silent at one of its notes.
#pragma once

#include "fretting/hand_load.h"
#include "fretting/mute_map.h"
#include "piece/piece.h"

#include <vector>

namespace wirenote {

struct HandReport {
    int bar = 0;                    // in which the note begins
    double tempo_bpm = 0.0;         // of the piece
    HandLoad load;                  // of the bar
    std::vector<MutedString> muted; // when the note begins, the thickest string first
};

// By "as played". Empty for a note that is not there.
HandReport handReport(const Piece& piece, NoteId note);

} // namespace wirenote
