// How a string is drawn: which way, and with which fingers behind the one that holds it.
#pragma once

#include "music/instrument.h"
#include "piece/reading.h"

#include <optional>
#include <vector>

namespace wirenote {

struct BendWay {
    Finger finger = Finger::Ring; // that holds the note
    std::vector<Finger> behind;   // that hold nothing else and push along, the nearest first
    bool to_thicker = true;       // towards the thicker strings (pushed), else the thinner (pulled)
    int against = 0; // the string that sounds on both sides or on the only one: it is met; 0: none
};

// Of a note that is bent and stopped; nothing for others. The thinner half of the strings is
// pushed, the thicker pulled, unless a string sounds on that side and none on the other; an
// outermost string stays on the neck. Common practice.
std::optional<BendWay> bendWay(const Instrument& instrument, const Rows& rows, std::size_t row);

} // namespace wirenote
