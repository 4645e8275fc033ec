// What one bar asks of the plucking hand, and what is to be said of one of its strokes.
#pragma once

#include "piece/piece.h"
#include "plucking/balance.h"
#include "plucking/cells.h"
#include "plucking/pick_path.h"
#include "plucking/pluck_load.h"
#include "plucking/school_fit.h"
#include "plucking/strum_shape.h"
#include "plucking/thumb_cycle.h"
#include "session/silent_strokes.h"

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

// The pick goes away or comes back.
struct PickMove {
    NoteId note = 0; // the first one struck otherwise
    bool tucked = false;
    double time_s = 0.0; // that there is for it
};

// One stroke of the best other way through a bar.
struct BarStroke {
    NoteId note = 0;
    Stroke stroke = Stroke::Unknown;
    bool differs = false; // from the one it has
    bool first = true;    // of its attack
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
    StrokeDeparture departure = StrokeDeparture::None;
    std::vector<ThumbGap> thumb_gaps; // of the bar
    std::optional<StrumShape> strum;  // of the note's own stroke
    std::vector<PickMove> pick_moves; // of the bar
    std::vector<BarStroke> next_best; // of the bar, as a whole
    SilentStrokes silent;             // of the bar
    Balance balance;                  // of the whole piece
    std::optional<BarJoin> round;     // of the loop
};

// By "as played". Empty for a note that is not there. `loop`: what is being practised.
PluckReport
pluckReport(const Piece& piece, NoteId note, std::optional<TimeRange> loop = std::nullopt);

} // namespace wirenote
