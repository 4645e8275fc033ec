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
    int beam = 0;    // values of a bar's voice with the same number hang on one beam; 0: none
    int bracket = 0; // likewise of one tuplet
    bool rest() const { return notes.empty(); }
    bool tuplet() const { return actual != normal; }
};

struct Bar {
    int number = 1; // 0 is the pick-up bar
    Metre metre;
    Rational start;            // quarter notes from the start of bar 1
    Rational length;           // of a pick-up: from its first note on
    std::vector<Value> values; // of the upper or only voice; fill the bar without gaps
    std::vector<Value> lower;  // likewise of the lower one; empty where there is only one
};

enum class WrittenVoices { One, AsNeeded };

struct Score {
    Metre metre;
    KeySignature key;
    double tempo_bpm = 0.0; // felt beats a minute
    std::vector<Bar> bars;
};

// Writes the piece down, in one voice, or in two where it needs them (score/voices.h): a bass that
// is held under a tune is then written as long as it sounds. The pick-up bar is there only when
// something sounds in it. The values of each bar add up to its length exactly.
Score writeScore(const Piece& piece, WrittenVoices voices = WrittenVoices::One);

} // namespace wirenote
