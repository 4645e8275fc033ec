// Which school of the pick what is told of the strokes speaks for.
#pragma once

#include "plucking/plucked_line.h"

#include <vector>

namespace wirenote {

struct SchoolFit {
    PluckingSchool school = PluckingSchool::Alternate;
    int told = 0;                     // strokes whose direction was heard clearly or set
    int agree = 0;                    // of them, those that the school would take so without it
    std::vector<std::size_t> against; // attacks that are told and go the other way
};

// Of the attacks of a part, best first; nothing where too few are told. `motion`: of the reading.
std::vector<SchoolFit>
schoolFits(const PluckedLine& line, IndexSpan attacks, const HandMotion& motion);

// Why a stroke may depart from what its school would take.
enum class StrokeDeparture { None, Accent, LinesUp, Skips, LeadsIn };
// Of a single stroke that is set or heard otherwise: it is accented; the next one, on a beat, comes
// out down; it comes from over a string; or it begins a phrase.
StrokeDeparture departureAt(const PluckedLine& line, std::size_t attack);

} // namespace wirenote
