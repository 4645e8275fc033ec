// What one bar asks of the fretting hand, and what is kept silent at one of its notes.
#pragma once

#include "fretting/bend_way.h"
#include "fretting/conditions.h"
#include "fretting/grip_shape.h"
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

// What else is to be said of how one note is held: what would have to be otherwise for another
// place or finger, and how its string is drawn where it is.
struct NoteHold {
    std::vector<OtherCondition> conditions;
    std::optional<BendWay> bend;
};
// By "as played". Empty for a note that is not there.
NoteHold noteHold(const Piece& piece, NoteId note);

// What the grip that a note is struck in has in common with others, by "as played".
GripShape gripShape(const Piece& piece, NoteId note);

} // namespace wirenote
