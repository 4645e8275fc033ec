// How a place of the piece was played otherwise, and how often.
#pragma once

#include "form/versions.h"
#include "piece/piece.h"

#include <vector>

namespace wirenote {

struct Variant {
    VersionDifferenceKind kind = VersionDifferenceKind::Missing;
    double piece_s = 0.0;
    std::size_t note = 0; // into Piece::notes; of Added: unused
    int midi = 0;         // what was played; of Missing: 0
    int times = 0;        // in so many …
    int of = 0;           // … of all playings of the place, the one written down among them
    std::vector<std::size_t> versions; // that play it
};

// What differs from the piece, each once, the most frequent first. `versions`: of the takes, of the
// repeats, or both; those that a person has refused count for nothing.
std::vector<Variant> variantsOf(const std::vector<Version>& versions);

// How many playings of a place there are, the piece itself among them.
int playingsOf(const std::vector<Version>& versions, double piece_s);

} // namespace wirenote
