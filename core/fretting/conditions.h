// Under what other condition a note would be taken elsewhere, or by another finger.
#pragma once

#include "piece/piece.h"

#include <vector>

namespace wirenote {

enum class Condition {
    Slower, // the tempo, by half
    Faster,
    SmallerHand, // by a sixth
    LargerHand,
    NothingBefore, // it is the first note
    NothingAfter,  // it is the last
    NothingRings   // what is older ends when it begins
};

struct OtherCondition {
    Condition when = Condition::Slower;
    Position position;
    Finger finger = Finger::Unknown;
};

// Every such condition, tried on the notes about this one with all that is set as it is set. Empty
// where nothing would change it, where it has no place, or for a row that is not there.
std::vector<OtherCondition> otherConditions(const Instrument& instrument,
                                            const Rows& rows,
                                            const std::vector<StringTrait>& traits,
                                            const ReadingHead& head,
                                            std::size_t row);

} // namespace wirenote
