// Bars of written values: what notation needs, nothing about pages.
#pragma once

#include "piece/piece.h"
#include "score/quantise.h"

#include <vector>

namespace wirenote {

enum class NoteType { Whole, Half, Quarter, Eighth, Sixteenth, ThirtySecond };

// One written value: a note, a chord or a rest. Notes tied over a bar line or between values are
// written as several values.
struct Value {
    Rational start; // within the bar, quarter notes
    Rational length;
    NoteType type = NoteType::Quarter;
    int dots = 0;
    int actual = 1;                  // of a tuplet: so many …
    int normal = 1;                  // … in the time of so many; 1 in 1: no tuplet
    std::vector<std::size_t> notes;  // indices into Piece::notes; empty for a rest
    std::vector<std::size_t> graces; // written small before it
    bool tied_from_before = false;
    bool tied_to_next = false;
    bool rest() const { return notes.empty(); }
    bool tuplet() const { return actual != normal; }
};

struct Bar {
    int number = 1; // 0 is the pick-up bar
    Metre metre;
    Rational start;            // quarter notes from the start of bar 1
    Rational length;           // of a pick-up: from its first note on
    std::vector<Value> values; // fill the bar without gaps
};

struct Score {
    Metre metre;
    KeySignature key;
    double tempo_bpm = 0.0; // felt beats a minute
    std::vector<Bar> bars;
};

// Writes the piece down. The pick-up bar is there only when something sounds in it. The values of
// each bar add up to its length exactly.
Score writeScore(const Piece& piece);

} // namespace wirenote
