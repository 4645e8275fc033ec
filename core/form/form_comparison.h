// How the form of another take differs from that of the piece: what it lacks, adds, plays once
// more, elsewhere or in another key.
#pragma once

#include "piece/piece.h"

#include <cstddef>
#include <vector>

namespace wirenote {

enum class FormDifferenceKind {
    Lacks,    // bars of the piece that the take does not play
    Adds,     // a stretch of the take that is not of the piece
    Instead,  // something else in the place of bars
    Again,    // bars that it has played before
    OtherKey, // bars that lie higher or lower than the rest of the take
    Earlier,  // bars that come after later ones
};

struct FormDifference {
    FormDifferenceKind kind = FormDifferenceKind::Lacks;
    TimeRange of_piece;    // seconds in the piece; of Adds: empty, where it stands in between
    TimeRange in_take;     // seconds in the take; of Lacks: empty, where it would stand
    int semitones = 0;     // OtherKey: how much higher than the rest of the take
    bool at_start = false; // of Lacks, Adds and Instead: before all that both have …
    bool at_end = false;   // … or after it
};

struct FormComparison {
    // What both have, in the order of the take.
    struct Tie {
        TimeRange of_piece;
        TimeRange in_take;
        int semitones = 0;
        std::size_t demonstration = 0; // into Take::demonstrations
    };
    std::vector<Tie> ties;
    TimeRange piece;                         // from the first note to the last of the piece itself
    TimeRange take;                          // … of what is played in the take
    std::vector<FormDifference> differences; // in the order of the take
};

// By what the take shows (form/demonstrations.h). A take that shows nothing of the piece has no
// ties and no differences. What is shorter than `shortest_s` is no difference.
FormComparison compareForms(const Piece& piece, std::size_t take, double shortest_s = 1.5);

} // namespace wirenote
