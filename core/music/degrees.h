// What a note or a chord is of a key, scale or chord: degrees and functions.
#pragma once

#include "music/chord_names.h"
#include "music/scales.h"

#include <string>

namespace wirenote {

// "1", "♭3", "♯4" never: lowered degrees of the major scale, as players count them (common
// practice). `semitones` above the tonic or root, any octave.
std::string degreeName(int semitones);

// The function of a chord in a key by Roman numerals: capitals for major, small letters for minor
// and diminished, accidentals against the major scale on the tonic, what is added behind ("V7",
// "ii7", "♭VII", "vii°"). Empty for a name that is not of the usual chords.
std::string functionName(std::string_view chord, const KeyGuess& key);

} // namespace wirenote
