#pragma once

#include "fretting/hand_costs.h"
#include "piece/piece.h"

namespace wirenote {

// How far like strokes nearby speak for each other (working figures, common practice).
struct LikenessModel {
    double reach_s = 3.0;         // strokes further away say nothing
    double otherwise = 0.1;       // how often a grip that is struck again has changed
    double shape_otherwise = 0.2; // how often one that moves takes another shape
    double root_otherwise = 0.5;  // how often it moves to other strings
};

// What the strokes about each of the notes [from, to) say of its string, as they are placed so far:
// a grip that is struck again is still held (StruckAgain), and one that moves keeps its shape
// (ShapeMoves). At most one entry of each kind a note; none for notes that stand alone.
std::vector<std::vector<StringEvidence>> likenessEvidence(const Piece& piece,
                                                          std::size_t from,
                                                          std::size_t to,
                                                          const LikenessModel& model = {});

// How likely each note is on each string, as placed: [note][string − 1].
std::vector<std::vector<double>> stringProbabilities(const Piece& piece);
// The same for the notes [from, to) only: [note − from][string − 1].
std::vector<std::vector<double>>
stringProbabilities(const Piece& piece, std::size_t from, std::size_t to);

} // namespace wirenote
