// What a bar asks of the plucking hand: how fast, how evenly, how loud.
#pragma once

#include "plucking/plucked_line.h"

#include <vector>

namespace wirenote {

// How loud the notes of one stroke are, in the middle.
struct StrokeLevel {
    Stroke stroke = Stroke::Unknown;
    int notes = 0;
    double loudness_db = 0.0;
};

struct PluckLoad {
    double strokes_per_s = 0.0;   // at the fastest, over half a second
    double sustained_s = 0.0;     // how long it goes on beyond what is comfortable
    double soonest_again_s = 0.0; // the same finger twice; 0: none twice
    Stroke again = Stroke::Unknown;
    int crossings = 0;               // of fingers over one another, from note to note
    double top_tempo = 1.0;          // times the tempo it has, at which the hand is comfortable
    std::vector<StrokeLevel> levels; // of every stroke with a few notes
};

// Of the attacks of a part, by the strokes the rows have. Comfortable (working figures from common
// practice): ten strokes a second of a pick that goes down and up, five of down-strokes alone, five
// of one finger or the thumb.
PluckLoad pluckLoad(const PluckedLine& line, IndexSpan attacks);

} // namespace wirenote
