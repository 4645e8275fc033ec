#pragma once

#include "base/rational.h"
#include "piece/piece.h"

#include <optional>
#include <vector>

namespace wirenote {

// A note in score time: quarter notes from the start of bar 1 (negative in the pick-up).
struct ScoreNote {
    std::size_t index = 0; // into Piece::notes
    Rational start;
    Rational length;     // > 0; of a grace, 0
    bool grace = false;  // written small before what starts at `start`
    double late_s = 0.0; // how much after its place it was played; negative: before
    Rational sounds;     // how long it sounds, on the divisions of the beats
    Rational step;       // … of which the one it begins on is this long
};

// Into how many equal parts a beat was read, and what else it may be.
struct BeatReading {
    int beat = 0; // index into Timeline::beats_s
    int parts = 1;
    double probability = 1.0;
    int other_parts = 0; // 0: nothing else
    double other_probability = 0.0;
};

struct Quantised {
    std::vector<ScoreNote> notes; // by start, then as in the piece
    std::vector<BeatReading> beats;
};

// Working figures from common practice; costs are negative log-probabilities up to a constant.
struct QuantiseParameters {
    double loose_s = 0.018;     // usual timing error of a player …
    double loose_share = 0.035; // … or this share of a beat, whichever is more
    double most = 9.0;          // no single stroke costs more
    double collision = 3.5;     // two strokes on one place
    double other_family = 0.9;  // a beat divided by two beside one divided by three or five
};

// Puts the notes on the divisions of each beat that weigh timing against readability best, with the
// beats beside it as context (Viterbi): halves, quarters, eighths; thirds, sixths; fifths; in
// compound metres thirds, sixths, twelfths; halves, quarters. Swung halves are read as even ones.
// Graces take no time of their own, unless nothing follows them. Lengths follow the sounding length: a note that ends shortly
// before the next begins is written up to it.
Quantised quantise(const Piece& piece, const QuantiseParameters& parameters = {});

// The length to write for a note that sounds so, where the next of its voice begins (nothing: none
// does) and a bar is so long: up to the next note unless a real rest is heard.
Rational writtenLength(const ScoreNote& note, std::optional<Rational> next, Rational bar);

// How much longer the first of two halves of a beat is played than the second, in the middle: 1 for
// straight playing, about 2 for a shuffle. Beats divided otherwise do not count; with few that are,
// 1.
double estimateSwing(const std::vector<Note>& notes, const std::vector<double>& beats_s);

} // namespace wirenote
