#pragma once

#include "base/result.h"
#include "piece/piece.h"

#include <string>
#include <vector>

namespace wirenote {

// What else the tempo may be, in felt beats.
struct TempoAlternative {
    double bpm = 0.0;
    double probability = 0.0;
};

// "wirenote-notes/1": notes with times, pitches, places, fingers, strokes and techniques.
// `alternatives`: likeliest first.
std::string writeNotesJson(const Piece& piece,
                           const std::vector<TempoAlternative>& alternatives = {});

// A place, finger or stroke in the file keeps the confidence given with it; without one it counts
// as set.
Result<Piece> readNotesJson(const std::string& text);

} // namespace wirenote
