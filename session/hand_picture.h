// What the plucking hand does in time, to be drawn.
#pragma once

#include "piece/piece.h"
#include "plucking/cells.h"
#include "plucking/pick_path.h"

#include <vector>

namespace wirenote {

// One turn of a hand that goes on moving.
struct HandTurn {
    double time_s = 0.0;
    bool down = true;   // on the way to it
    NoteId note = 0;    // the first that it strikes; 0: it passes the strings without a sound
    bool ghost = false; // it scratches
    bool seen = false;  // silent, and a film shows it
};

// Where the pick meets the strings.
struct PickPoint {
    double time_s = 0.0;
    int first = 0; // string; of a strum the first …
    int last = 0;  // … and the last
    NoteId note = 0;
    bool joined = false; // to the point before: the hand has not rested between
    bool swept = false;  // on from it the same way
    bool flips = false;  // the pick has to be slanted otherwise to get here
    Slant slant = Slant::Either;
};

// Which finger, and when.
struct FingerPoint {
    double time_s = 0.0;
    Stroke finger = Stroke::P;
    NoteId note = 0;
};

// All movements of the plucking hand, in time, by "as played".
struct HandPicture {
    // Of a picking hand, as far as it goes on evenly: every stroke that sounds or scratches, and
    // between two like strokes the silent one back (common practice of a hand that never stops);
    // and silent ones that a film shows.
    std::vector<HandTurn> turns;
    std::vector<PickPoint> pick;
    std::vector<FingerPoint> fingers;
    std::vector<Cell> cells;
};
HandPicture handPicture(const Piece& piece);

} // namespace wirenote
