// Where the notes of a scale or a chord lie on the neck.
#pragma once

#include "music/chord_names.h"
#include "music/scales.h"
#include "piece/piece.h"

#include <vector>

namespace wirenote {

struct ScalePlace {
    Position place;
    int semitones = 0; // above the tonic or the root, 0..11
    bool operator==(const ScalePlace&) const = default;
};

// All places of an instrument, up to its last fret, whose pitch is of the scale; by string, then by
// fret.
std::vector<ScalePlace> scalePlaces(const Instrument& instrument, const Scale& scale);
// … of the chord.
std::vector<ScalePlace> scalePlaces(const Instrument& instrument, const ChordTones& chord);

// Whether a place lies in the box of a hand whose index finger plays at `hand_fret`: four frets and
// one on either side that a finger reaches, and open strings. Common practice.
bool inBox(Position place, int hand_fret);

} // namespace wirenote
