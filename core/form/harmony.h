// The chords that sound, named.
#pragma once

#include "music/chord_names.h"
#include "piece/piece.h"

#include <vector>

namespace wirenote {

struct ChordSpan {
    TimeRange span; // seconds, from its first attack to the next chord's
    ChordName chord;
    std::string said; // what a person calls it; empty: nobody did
};

// As a person calls it, or as it is found.
std::string chordText(const ChordSpan& span, Spelling spelling = Spelling::Sharps);

// What sounds together, attack by attack, named; the same chord again is one span. Arpeggios are
// chords when their notes ring into each other. Spans in which nothing has a name are left out.
std::vector<ChordSpan> chordsOf(const Piece& piece);

// True when the pitch is not in the key's scale.
bool outsideTheKey(const KeySignature& key, int midi);

} // namespace wirenote
