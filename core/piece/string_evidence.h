// What speaks for and against the strings on which a note may have been played.
#pragma once

#include "piece/reading.h"

#include <vector>

namespace wirenote {

// What one kind of evidence holds against each string for one note, in nepers: index 0 is string 1,
// 0 the string that fits best.
struct StringEvidence {
    ReasonKind kind = ReasonKind::StiffnessFits; // as a reason names it
    Basis basis = Basis::Heard;
    std::vector<double> costs;
    double against(int string) const {
        const auto at = static_cast<std::size_t>(string - 1);
        return at < costs.size() ? costs[at] : 0.0;
    }
};

// How likely each note is on each string, as placed: [note][string − 1]; a person's word counts
// whole.
std::vector<std::vector<double>> stringProbabilities(const Rows& rows, int strings);

} // namespace wirenote
