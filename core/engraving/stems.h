// Stems, beams, flags and brackets: the rhythm of one voice, in notation and under a tab.
#pragma once

#include "engraving/block.h"
#include "score/bars.h"

#include <optional>
#include <vector>

namespace wirenote {

// A value that has a stem, or would have one.
struct Stemmed {
    const Value* value = nullptr;
    double x = 0.0;    // of the stem
    double root = 0.0; // where it begins: at the head furthest from its end, or beside the staff
    double from = 0.0; // at the nearest head
    double to = 0.0;   // where it ends when no beam holds it
    NoteId note = 0;
    // How far out beams and flags must stay for what else is there, and how far beams reach at the
    // least; nothing: no matter.
    std::optional<double> clear = std::nullopt;
    std::optional<double> reach = std::nullopt;
};

struct StemStyle {
    bool up = true;
    double space = 1.75;
    double slope = 0.0; // the steepest that a beam may be, mm a mm
    double least = 4.0; // length of a stem under a beam, mm
};

// How many beams or flags a value has.
int beamsOf(NoteType type);

// Stems with their flags or beams, of one voice of one bar in order of time. Beamed stems are
// lengthened to their beam.
void drawStems(Block& block, std::vector<Stemmed> stems, const StemStyle& style);

// A number over (under) the values of each tuplet, with a bracket where no beam holds them
// together. `places`: the middles of all values of a voice of a bar, rests too.
struct TupletPlace {
    const Value* value = nullptr;
    double x = 0.0;
};
void drawTuplets(Block& block, const std::vector<TupletPlace>& places, bool over, double space);

} // namespace wirenote
