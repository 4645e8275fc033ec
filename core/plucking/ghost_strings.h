// Over which strings a stroke goes that does not sound.
#pragma once

#include "piece/one_stroke.h"
#include "piece/reading.h"

#include <optional>
#include <utility>
#include <vector>

namespace wirenote {

// From the string that is met first to the last.
struct Swept {
    int first = 0;
    int last = 0;
    bool operator==(const Swept&) const = default;
};

// The strings that a ghost stroke passes: those of the nearest strum that goes the same way and
// sounds, within a few seconds, else all of them. Nothing for a note that is no ghost stroke or has
// no direction. A hand that never stops passes the same strings whether they sound or not (common
// practice).
std::optional<Swept> sweptBy(int strings, const Rows& rows, std::size_t note);

// Where ghost strokes are written: on the first string they pass. Of the notes of `part` whose
// place no person has set: index and place.
std::vector<std::pair<std::size_t, Position>>
ghostPlaces(int strings, const Rows& rows, IndexSpan part);

} // namespace wirenote
