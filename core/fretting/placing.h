#pragma once

#include "music/instrument.h"
#include "piece/one_stroke.h"
#include "piece/piece.h"

namespace wirenote {

// Where the notes are taken, and what was learned of the strings on the way.
struct Placing {
    std::vector<NotePlan> plans; // one a row
    std::vector<StringTrait> traits;
};

// Places every note that no person has placed, with probability, runners-up and reasons. Nothing
// set is changed; strokes stay as they are in the rows. `traits`: what is known of the strings
// (empty: their gauges). Of `head` the school and the wish count: what is wished otherwise than it
// was played is placed without what was heard of strings.
Placing place(const Instrument& instrument,
              const Rows& rows,
              std::vector<StringTrait> traits,
              const ReadingHead& head);

// The same for a part, with what is about it as it is: the plans of the part.
std::vector<NotePlan> placePart(const Instrument& instrument,
                                const Rows& rows,
                                const std::vector<StringTrait>& traits,
                                const ReadingHead& head,
                                IndexSpan part);

// The notes about a moment as far as a decision there can matter: at most 24 notes or up to a rest
// of 1.5 s on each side.
IndexSpan neighbourhood(std::span<const Note> notes, double time_s);

// Where each near miss would lie best: a string that is free then, near the hand; string 0:
// nowhere.
std::vector<Position>
placesOf(const std::vector<NearMiss>& misses, const Instrument& instrument, const Rows& rows);

} // namespace wirenote
