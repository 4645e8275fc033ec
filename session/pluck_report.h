// What one bar asks of the plucking hand, and what is to be said of one of its strokes.
#pragma once

#include "piece/piece.h"
#include "plucking/cells.h"
#include "plucking/ghost_strings.h"
#include "plucking/pick_path.h"
#include "plucking/pluck_load.h"
#include "plucking/school_fit.h"
#include "plucking/thumb_cycle.h"

#include <optional>
#include <vector>

namespace wirenote {

// Where one bar goes over to the next.
struct BarJoin {
    Stroke last = Stroke::Unknown; // of this bar
    Stroke next = Stroke::Unknown; // the first of the next one
    NoteId next_note = 0;
    bool begins_up = false; // the next bar begins on its first beat with an up-stroke
};

struct PluckReport {
    int bar = 0;                        // in which the note begins
    PluckLoad load;                     // of the bar
    std::optional<Cell> cell;           // in which the bar lies
    std::vector<StringChange> path;     // of the pick, of the bar
    std::optional<BarJoin> join;        // of a picked bar
    std::vector<SchoolFit> fits;        // of the part between two section marks, or the whole piece
    std::vector<StrokeLevel> levels;    // of the whole piece
    Stroke otherwise = Stroke::Unknown; // what the school has instead of a stroke that was set
    Departure departure = Departure::None;
    std::vector<ThumbGap> thumb_gaps; // of the bar
};

// By "as played". Empty for a note that is not there.
PluckReport pluckReport(const Piece& piece, NoteId note);

// One turn of a hand that goes on moving.
struct HandTurn {
    double time_s = 0.0;
    bool down = true;   // on the way to it
    NoteId note = 0;    // the first that it strikes; 0: it passes the strings without a sound
    bool ghost = false; // it scratches
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
    // between two like strokes the silent one back (common practice of a hand that never stops).
    std::vector<HandTurn> turns;
    std::vector<PickPoint> pick;
    std::vector<FingerPoint> fingers;
    std::vector<Cell> cells;
};
HandPicture handPicture(const Piece& piece);

} // namespace wirenote
