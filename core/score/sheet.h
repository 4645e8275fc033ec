// Everything a sheet says, before anybody decides where it stands.
#pragma once

#include "piece/grip.h"
#include "score/bars.h"
#include "score/count.h"

#include <optional>
#include <set>
#include <string>
#include <vector>

namespace wirenote {

// A chord from a moment of the score on.
constexpr std::size_t kNoNote = static_cast<std::size_t>(-1);

struct ChordSign {
    std::size_t note = kNoNote; // the first that it begins with; index into Piece::notes
    Rational at = 0; // where that is written, as writeSheet finds it; without a note as it is given
    std::string name;
    std::optional<Grip> grip = std::nullopt; // what the hand holds over it
};

// One finger over several strings at one fret, as long as any of them must sound.
struct BarreSign {
    Rational from, to;
    int fret = 1;
    Finger finger = Finger::Index;
    int thin = 1, thick = 1; // strings at its ends
};

// A finger that stays where it is.
struct HoldSign {
    Rational from, to;
    Finger finger = Finger::Index;
    NoteId note = 0;
};

struct PositionSign {
    Rational at;
    int fret = 1;
};

// A technique that goes on from note to note.
struct SpanSign {
    Technique technique = Technique::PalmMute;
    Rational from, to; // `to`: where its last note begins
    NoteId note = 0;   // its first
};

// What a person wrote beside the notes.
struct MarkSign {
    MarkKind kind = MarkKind::Words;
    Rational from, to; // the same but for what goes on
    std::string text;
};

struct WordSign { // above a bar
    Rational at;
    std::string text;
};

// A bar as it is printed: the bar of the score, with the repeat signs about it.
struct PrintedBar {
    std::size_t bar = 0;             // into Score::bars
    std::vector<std::size_t> also{}; // those that are played from here too
    bool repeat_begins = false;
    bool repeat_ends = false;
    int times = 2;  // how often the repeat is played, where it ends
    int ending = 0; // under the bracket of a first or second ending
    bool ending_begins = false;
    bool ending_ends = false;
    int as_bar = 0;     // instead of its notes: "as bar 3"; 0: its notes
    std::string except; // what of that bar it lacks: "without the high note"
    Rational cell = 0;  // only so much of it is printed (0: all), and played `cells` times
    int cells = 1;
    // How much of the bar stands on the sheet.
    Rational shown(const Bar& of) const { return cells > 1 ? cell : of.length; }
};

struct Sheet {
    Score score;
    std::vector<PrintedBar> bars;
    std::vector<ChordSign> chords;       // by time, each time another one
    std::vector<BarreSign> barres;       // by time
    std::vector<HoldSign> holds;         // by time
    std::vector<PositionSign> positions; // by time, where it changes
    std::vector<SpanSign> spans;         // by time
    std::vector<MarkSign> marks;         // by where they begin
    std::vector<WordSign> sections;
    std::vector<WordSign> tempi; // after the first
    std::vector<CountMark> count;
    std::vector<std::pair<std::size_t, std::size_t>> slurs; // indices of notes: from, to
    std::set<NoteId> doubtful_places, doubtful_fingers, doubtful_strokes;
    std::size_t doubts = 0;
};

// What is to be written of a piece in "as played". `chords` come from who knows harmony.
Sheet writeSheet(const Piece& piece, std::vector<ChordSign> chords, CountSchool school);

// "III" for 3; frets up to 36.
std::string roman(int fret);

} // namespace wirenote
