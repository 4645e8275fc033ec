#pragma once

#include "music/pitch.h"

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace wirenote {

// A chord by its name: a root, a kind, the lowest note when that is another, and which of its notes
// do not sound.
struct ChordName {
    int root = -1;           // pitch class, 0 = C; −1: no name
    std::string kind;        // "" major, "m", "7", "maj7", "sus4", "5" …
    int bass = -1;           // pitch class of the lowest note
    std::vector<int> absent; // pitch classes of the chord that do not sound
    bool named() const { return root >= 0; }
    bool operator==(const ChordName&) const = default;
};

// Names what sounds together, from its MIDI numbers: of the usual chords (common practice, as in
// any harmony book: triads, sevenths, sixths, suspensions, added and full ninths, the fifth alone)
// the one that leaves out and adds least, rather on the lowest note than on another. An added ninth
// is not a ninth: that has its seventh. No name for fewer than two pitch classes, or when nothing
// fits.
ChordName nameChord(std::span<const int> midis);

// What a chord of a name is made of: pitch classes, the root first. Nothing for a name that is not
// of the usual chords; a bass after "/" counts as one of its notes.
struct ChordTones {
    int root = 0;
    std::string kind; // "" major, "m", "7" …
    std::vector<int> classes;
    bool operator==(const ChordTones&) const = default;
};
// "Am7", "F#m", "B♭maj7/D", "Bb7".
std::optional<ChordTones> parseChord(std::string_view name);

// "Am7/G": root and bass spelled as the key spells them. Empty when it has no name.
std::string chordText(const ChordName& chord, Spelling spelling = Spelling::Sharps);

} // namespace wirenote
