// p, i, m, a and c: the strokes of the fingers.
#pragma once

#include "plucking/pluck_model.h"
#include "plucking/plucked_line.h"

#include <span>
#include <vector>

namespace wirenote {

struct FingerStroke {
    Stroke stroke = Stroke::Unknown;
    double probability = 0.5;
    std::vector<RunnerUp<Stroke>> others;
    std::vector<Reason> reasons;
};

// A finger for each note of the attacks [part.first, part.end), the cheapest way through all of
// them by the figures of the school, and how sure each is (max-marginals of a Viterbi search): the
// thumb on the thick strings, a finger a string where notes ring into one another, two fingers that
// take turns in a tune, none twice quickly. `set`: of each note of the line what a person decided.
// In the order of the attacks and of their notes. Notes without a place are taken for ones on the
// thinnest string.
std::vector<std::vector<FingerStroke>> fingerStrokes(const PluckedLine& line,
                                                     IndexSpan part,
                                                     PluckingSchool school,
                                                     std::span<const std::optional<Stroke>> set);

// The `count` best ways as a whole, best first: the strokes of the attacks and their notes, in the
// same order. Unknown where no finger is left.
std::vector<std::vector<std::vector<Stroke>>> fingerWays(const PluckedLine& line,
                                                         IndexSpan part,
                                                         PluckingSchool school,
                                                         std::span<const std::optional<Stroke>> set,
                                                         std::size_t count);

} // namespace wirenote
