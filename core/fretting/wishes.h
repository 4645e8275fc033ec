// What is wished of a reading that is to be played otherwise than it was.
#pragma once

#include "hand/hand_model.h"
#include "piece/reading.h"

#include <vector>

namespace wirenote {

constexpr double kSmallHand = 0.85; // of the reach of an ordinary one
// The figures for a hand with this share of the usual reach.
HandModel handOfSize(HandModel model, double factor);

// The figures of a school with what is wished. It is dear to break, not forbidden: what cannot be
// had comes out as near as it goes (unmetWishes()).
HandModel wishedModel(HandModel model, const ReadingWish& wish);

bool withoutBarres(const ReadingWish& wish);

// The notes at which a reading does not have what was wished of it, in order.
std::vector<NoteId> unmetWishes(const Rows& rows, const ReadingWish& wish);

} // namespace wirenote
