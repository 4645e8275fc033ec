// Where strokes come from: a hand that rests, its wrist, the whole arm; and the rule in it, which
// players mostly cannot state themselves.
#pragma once

#include "piece/piece.h"

#include <optional>
#include <vector>

namespace wirenote {

enum class StrokeSource {
    Resting, // the heel of the hand stays where it is
    Wrist,   // the hand goes along, its forearm does not
    Arm,
};

// Nothing where too little of the arm is in sight, or nothing moved at the note.
std::optional<StrokeSource> strokeSource(const SeenFacts& seen);

struct SourcedStroke {
    StrokeSource source = StrokeSource::Wrist;
    bool strum = false; // several strings
    double gap_s = 0.0; // to the next stroke
};

// What the film of one take shows of its strokes, in time.
std::vector<SourcedStroke> sourcedStrokes(const Piece& piece, std::size_t take);

// What the strokes of a film have in common: all of them, or strums against single notes, or quick
// against slow ones; whichever says most of them, the simpler where another says hardly more.
struct StrokeHabit {
    enum class By { All, Strums, Gap };
    By by = By::All;
    double gap_s = 0.0; // By::Gap: strokes nearer than that are the first kind
    struct Kind {
        StrokeSource source = StrokeSource::Wrist;
        int agree = 0;
        int of = 0;
    };
    Kind first;  // all; single notes; quick ones
    Kind second; // none; strums; slow ones
};

// Nothing where there are fewer than eight strokes, or no rule holds for four of five.
std::optional<StrokeHabit> strokeHabit(const std::vector<SourcedStroke>& strokes);

} // namespace wirenote
