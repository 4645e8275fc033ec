// What of a piece a format cannot hold.
#pragma once

#include "session/files.h"

#include <vector>

namespace wirenote {

enum class PiecePart {
    Places, // string and fret
    Fingers,
    Strokes,
    Slurs,      // hammer-ons, pull-offs, slides
    Bends,      // with how far and when
    Techniques, // other ones
    Voices,
    Chords, // names
    Sections,
    Marks,      // dynamics, fermatas, signs and words
    Head,       // who made it, source and date
    PlayedTime, // exactly when each note was played
    Evidence,   // how each decision is known, and what else it may be
    Readings,   // but the first
    Takes
};

// What this piece has and a file of that format will lack, in the order above. Empty for a piece
// file.
std::vector<PiecePart> notCarried(const Piece& piece, FileFormat format);

// As a list in a sentence: "fingers, strokes and names of chords". English, for the command line.
std::string wordsFor(const std::vector<PiecePart>& parts);

} // namespace wirenote
