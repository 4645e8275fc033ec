// Licks: spans that are kept to be used again, in other keys, over other chords, on other strings.
#pragma once

#include "base/rational.h"
#include "music/chord_names.h"
#include "piece/piece.h"

#include <optional>
#include <string>
#include <vector>

namespace wirenote {

constexpr std::size_t kMaxLickNotes = 500;
constexpr std::size_t kMaxLicks = 5000;

struct LickNote {
    Rational start; // quarter notes from where the lick begins
    Rational length;
    int midi = 60;
    Position place; // string 0: none
    Finger finger = Finger::Unknown;
    Stroke stroke = Stroke::Unknown;
    std::vector<Technique> techniques;
    bool operator==(const LickNote&) const = default;
};

struct Lick {
    std::string name;
    std::string piece; // where it is from
    int bar = 1;       // … and in which bar it begins
    KeySignature key;
    std::string chord; // that it was played over; empty: none is known
    Instrument instrument;
    std::string remark;
    std::vector<LickNote> notes; // by start; never none
    bool operator==(const Lick&) const = default;
};

// What of a piece in one reading begins in a span, as it is written. Error: nothing does, or more
// than kMaxLickNotes.
Result<Lick> lickOf(const Piece& view, TimeRange span, std::string name, std::string chord);

// Where a piece plays a lick, in whatever key: the same intervals in the same rhythm.
struct LickFound {
    std::vector<NoteId> notes; // by time
    int semitones = 0;         // how much higher than it was kept
    bool same_places = false;  // by the same fingering, moved along the neck or not
};
std::vector<LickFound> findLick(const Piece& view, const Lick& lick);

// What a note is over a chord. Tension: of its extensions (second, fourth, sixth, and the seventh
// that it does not have); Outside: a semitone from what the chord has, and none of these.
enum class ChordRole { Root, Third, Fifth, Seventh, OtherTone, Tension, Outside };
struct NoteOverChord {
    ChordRole role = ChordRole::Root;
    int semitones = 0; // above the root, 0 to 11
};
// One for each note of the lick, raised by so many semitones.
std::vector<NoteOverChord> overChord(const Lick& lick, const ChordTones& chord, int semitones = 0);
// "♭3", "5", "♯11": as a degree of the chord (common practice).
std::string degreeText(int semitones);

// The same notes with every string taken so many further to the thick side (below 0: thin), each at
// the fret that has its pitch there. Nothing where a note has no place then, or the frets of notes
// that sound together lie further apart than a hand reaches.
std::optional<Lick> onOtherStrings(const Lick& lick, int strings);

// Over another kind of chord on the same root, by the fewest notes: thirds and sevenths that the
// other chord has otherwise move by a semitone. `changed`: which.
enum class Turn { Major, Dominant, Minor };
struct Turned {
    Lick lick;
    std::vector<std::size_t> changed;
};
// Error: it is not known over which chord it is played, or that chord is none.
Result<Turned> turned(const Lick& lick, Turn to);

// The lick so much higher, on the same strings where they have it; else its places are open.
Lick transposed(Lick lick, int semitones);

} // namespace wirenote
