#pragma once

#include "piece/one_stroke.h"
#include "piece/reading.h"
#include "piece/string_evidence.h"

namespace wirenote {

// How far like strokes nearby speak for each other (working figures, common practice).
struct LikenessModel {
    double reach_s = 3.0;         // strokes further away say nothing
    double otherwise = 0.1;       // how often a grip that is struck again has changed
    double shape_otherwise = 0.2; // how often one that moves takes another shape
    double root_otherwise = 0.5;  // how often it moves to other strings
};

// What the strokes about each note of a part say of its string, as they are placed so far: a grip
// that is struck again is still held (StruckAgain), and one that moves keeps its shape
// (ShapeMoves). At most one entry of each kind a note; none for notes that stand alone. `strings`:
// how many the instrument has.
std::vector<std::vector<StringEvidence>>
likenessEvidence(int strings, const Rows& rows, IndexSpan part, const LikenessModel& model = {});

} // namespace wirenote
