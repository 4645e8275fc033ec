// Down and up: the strokes of a pick, or of a hand over the strings.
#pragma once

#include "plucking/pluck_model.h"
#include "plucking/plucked_line.h"

#include <span>
#include <vector>

namespace wirenote {

// Why a pick goes as it does at one attack: the strongest of the rules that speak for its way.
struct PickStroke {
    bool down = true;
    double probability = 0.5;
    std::vector<Reason> reasons;
};

// By which rules the pick goes at an attack. `school`: Unknown lets what is played decide, place by
// place: down-strokes only through riffs that are damped or go in fifths, sweeps in fast runs of
// one note a string, the moving hand for strums, else alternation by the beat.
PluckingSchool pickSchoolAt(const PluckedLine& line, std::size_t attack, PluckingSchool school);

// The cheapest way through the attacks [part.first, part.end), and how sure each stroke of it is
// (max-marginals of a Viterbi search). `set`: what is decided of each attack of the line already.
std::vector<PickStroke> pickStrokes(const PluckedLine& line,
                                    IndexSpan part,
                                    PluckingSchool school,
                                    const HandMotion& motion,
                                    std::span<const std::optional<bool>> set);

// The `count` best ways through the part as a whole, best first: whether each attack goes down.
std::vector<std::vector<bool>> pickWays(const PluckedLine& line,
                                        IndexSpan part,
                                        PluckingSchool school,
                                        const HandMotion& motion,
                                        std::span<const std::optional<bool>> set,
                                        std::size_t count);

} // namespace wirenote
