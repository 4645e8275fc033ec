// A calibration: each open string, then its twelfth fret, thickest string first.
#pragma once

#include "base/result.h"
#include "base/sound.h"
#include "piece/piece.h"

#include <vector>

namespace wirenote {

// What a calibration take told of one instrument: its strings, and how
// each differs from what its gauge says.
struct Calibration {
    Instrument instrument;
    std::vector<StringTrait> traits;  // one a string, the thinnest first; basis "set"
    std::vector<double> octave_cents; // how sharp fret 12 sounds against the open string's octave
};

// Finds the strings of this instrument in order among the notes of one line heard in the sound, and
// measures each. Errors: a string was not heard, or sounds like another (which one, and what to
// do).
Result<Calibration>
calibrationOf(SoundView sound, std::vector<Note> heard, double a4_hz, const Instrument& instrument);

} // namespace wirenote
