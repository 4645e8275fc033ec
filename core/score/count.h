// The count: what a player says while playing.
#pragma once

#include "score/quantise.h"

#include <string>
#include <vector>

namespace wirenote {

// What is said at a place: `beat` of the bar, from 0, and the share of it that has passed. Empty
// where the school has no syllable.
std::string syllable(CountSchool school, const Metre& metre, int beat, Rational part);

// One place of the count.
struct CountMark {
    double time_s = 0.0;
    Rational quarters; // from bar 1
    std::string text;
    bool on_beat = false;
    bool sounds = false;     // a note or stroke begins here
    bool syncopated = false; // … off the beat, and it sounds on over the next one
};

// The whole piece counted at the level each bar needs: beats where only beats are played, halves,
// quarters or thirds where notes fall on them. Graces are not counted.
std::vector<CountMark> countOf(const Piece& piece, const Quantised& quantised, CountSchool school);

} // namespace wirenote
