// Places and fingers of a line, decided together.
#pragma once

#include "fretting/line_note.h"
#include "hand/hand_model.h"
#include "piece/note.h"

#include <span>
#include <vector>

namespace wirenote {

struct PlaceProbability {
    Position position;
    double probability = 0.0;
};

struct LinePlacement {
    bool possible = false;                // false: no place on this neck has the pitch, …
    bool out_of_hand = false;             // … or no hand takes it with the others of its stroke
    Position position;                    // on the cheapest way through the line
    int hand_fret = 1;                    // where the index finger plays then
    std::vector<PlaceProbability> places; // all of them, likeliest first
    Finger finger = Finger::Unknown;      // Open for open strings; Unknown where none can take it
    double finger_probability = 0.0;
    std::vector<RunnerUp<Finger>> other_fingers; // at this place, likeliest first
    std::vector<Reason> finger_reasons;          // one, where it is a finger or none can take it
    bool open() const { return position.fret == 0; }
};

struct LineSolution {
    std::vector<LinePlacement> notes;
    double cost = 0.0;     // of the cheapest way, nepers
    bool complete = false; // no way was left out of the search: none is cheaper
};

// The cheapest way of a hand through a line (Viterbi, "Error bounds for convolutional codes", IEEE
// Trans. Inf. Theory 13, 1967): at every attack it holds what begins, what still rings and what
// comes again soon on a string that nothing else needs, each with a place and a finger. The
// probability of a place compares the best way through it with the best way through each of its
// rivals (max-marginals), so that the chosen place is always the likeliest; fingers likewise at the
// chosen place. Places and fingers that are given stay; places that no hand can hold together have
// no finger, and so has what was left without a place. Work and memory grow linearly with the
// notes.
LineSolution solveLine(const Instrument& instrument,
                       std::span<const LineNote> line,
                       const HandModel& model = {});

// Places and fingers of one whole way, note by note.
struct WholeWay {
    double cost = 0.0;
    std::vector<Position> positions; // string 0: nowhere
    std::vector<Finger> fingers;
};
// The `count` cheapest ways that differ in a place or a finger, cheapest first (list Viterbi:
// Seshadri and Sundberg, IEEE Trans. Communications 42, 1994).
std::vector<WholeWay> cheapestWays(const Instrument& instrument,
                                   std::span<const LineNote> line,
                                   std::size_t count,
                                   const HandModel& model = {});

} // namespace wirenote
