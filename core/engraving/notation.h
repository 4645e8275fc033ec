// Notes of a bar as a staff shows them: heads, accidentals, which way stems go.
#pragma once

#include "engraving/font_metrics.h"
#include "piece/piece.h"
#include "score/bars.h"

#include <optional>
#include <vector>

namespace wirenote {

struct WrittenHead {
    std::size_t note = 0; // into Piece::notes
    int step = 0;         // lines and spaces above the middle line
    Glyph head = Glyph::NoteheadBlack;
    std::optional<Glyph> accidental;
    int accidental_column = 0; // 0: next to the head
    bool aside = false;        // on the other side of the stem: a second
};

// One value of a voice; no heads: a rest.
struct WrittenChord {
    const Value* value = nullptr;
    Voice voice = Voice::Upper;
    std::vector<WrittenHead> heads; // the lowest first
    std::vector<WrittenHead> graces;
    bool stem_up = true;
    bool moved = false; // to the right, out of the way of the other voice
    // From the middle of the column, in staff spaces: where accidentals end and dots begin. They
    // stand outside all heads that begin together.
    double heads_left = 0.0, heads_right = 0.0;
    int accidental_columns = 0; // of all that begins together
    int graces_first = 0;       // of another voice, between these and the heads
    std::vector<int> dots;      // steps at which they stand
};

// Steps above the middle line of the clef that the instrument is written in: guitars and basses an
// octave above their sound, in the treble and the bass clef.
int staffStep(const SpelledPitch& sounding, bool bass);

// The values of both voices by time, the upper one first. Accidentals are written where the key and
// what came before in the bar do not say them.
std::vector<WrittenChord> notationOf(const Piece& piece, const Bar& bar);

// What a chord takes on each side of the middle of its heads, in staff spaces.
struct Sides {
    double left = 0.0, right = 0.0;
};
Sides sidesOf(const WrittenChord& chord);
// How far right of the middle of a column its heads stand, in staff spaces.
double offsetOf(const WrittenChord& chord);
double headWidth(const WrittenChord& chord);

Glyph restGlyph(NoteType type);
std::optional<Glyph> flagGlyph(NoteType type, bool stem_up);

} // namespace wirenote
