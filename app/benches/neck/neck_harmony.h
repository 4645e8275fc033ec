#pragma once

namespace wirenote::app {

// What of harmony lies under the hand: the scale of the piece (or of the loop), the chord that
// sounds; by the names of notes or as degrees.
enum class NeckHarmony { None, ScaleNotes, ScaleDegrees, ChordNotes, ChordDegrees };
constexpr int kNeckHarmonies = 5;

} // namespace wirenote::app
