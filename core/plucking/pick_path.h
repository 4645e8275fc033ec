// How the pick gets from string to string.
#pragma once

#include "plucking/plucked_line.h"

#include <vector>

namespace wirenote {

// Either: it stays in the strings, or there is time to lift it. To leave the plane of the strings
// after an up-stroke the pick is slanted downwards, after a down-stroke upwards (common practice).
enum class Slant { Either, Downward, Upward };

// From one single note to the next on another string.
struct StringChange {
    std::size_t attack = 0; // of the line: the first one on the new string
    int from = 0;           // strings
    int to = 0;
    int notes = 0;               // struck on the string before it was left
    int skipped = 0;             // strings between
    bool swept = false;          // the same way on to the neighbour: the pick need not leave
    Slant slant = Slant::Either; // that lets it leave clean
    bool flips = false;          // another than at the change before
};

// All changes of a part that is picked, by the strokes that the rows have; those that are struck
// with fingers, slurred or belong to strums are passed over.
std::vector<StringChange> pickPath(const PluckedLine& line, IndexSpan attacks);

} // namespace wirenote
