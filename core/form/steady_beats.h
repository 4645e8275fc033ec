// Playing that keeps one tempo for minutes, as to a click.
#pragma once

#include "piece/note.h"

#include <vector>

namespace wirenote {

struct SteadyParameters {
    double least_s = 100.0;   // of playing: shorter, nothing is said …
    double longest_s = 420.0; // … nor longer: what is searched grows with the square of it
    double reach = 0.03;      // the tempo lies no further from that of the beats heard so far
    double clear = 30.0;      // how well the attacks fall on the grid, as below, at the least …
    double far = 0.0015;      // … and against tempi further away than this share …
    double clearer = 1.6;     // … so many times
    double even = 0.12;     // … in the quarter of the take where they do least, against the most
    double joined_s = 0.04; // attacks closer than this are one
};

// The beats as an even grid over the whole take, at about the tempo of `beats_s`, where the attacks
// of the whole take keep one: the sum over 1, 2, 4 and 8 parts of a beat of the power of the
// attacks' periodogram there, over their number (Bartlett, "Periodogram analysis and continuous
// spectra", Biometrika 37, 1950; of attacks at random each is 1 on average). Empty when they do
// not, for fewer than four beats, and for shorter or longer takes.
std::vector<double> steadyBeats(const std::vector<Note>& notes,
                                const std::vector<double>& beats_s,
                                const SteadyParameters& parameters = {});

} // namespace wirenote
