// What all playings of a place say together of its notes.
#pragma once

#include "form/versions.h"
#include "piece/piece.h"

#include <cstddef>
#include <vector>

namespace wirenote {

// In how many of the playings of its place a note was played; the piece itself is one of them.
struct PlayedIn {
    int times = 1;
    int of = 1;
    bool operator==(const PlayedIn&) const = default;
};
// One a note of the piece. What is not to be learned from counts for nothing.
std::vector<PlayedIn> playedInVersions(const Piece& piece, const std::vector<Version>& versions);

// Notes are believed more for every other playing of their place that has them, and less for every
// one that has not; what most of the others have and the leading take was not heard to play becomes
// a note where it was nearly heard, or where nearly all have it. What a person has decided stays.
// Returns how many notes it added.
int poolVersions(Piece& piece, const std::vector<Version>& versions);

} // namespace wirenote
