// What is drawn on a page, in millimetres from its top left corner, y downwards. Nothing here knows
// a painter; painting/ draws it alike on screen and paper.
#pragma once

#include "base/rational.h"
#include "piece/note.h"

#include <string>
#include <variant>
#include <vector>

namespace wirenote {

// What a mark means. Who checks a page asks by this which marks may touch (mayTouch).
enum class Sign {
    StaffLine,
    BarLine,
    RepeatDots,
    Brace,
    Clef,
    KeySign,
    TimeSign,
    AsBar,  // words in the place of a bar
    Number, // of a fret
    GraceNumber,
    Head,
    GraceHead,
    Ledger,
    Accidental,
    Dot,
    Stem,
    Beam,
    Flag,
    Rest,
    Tie,
    Slur,
    SlideLine,
    BendCurve,
    BendAmount,
    Roll,
    TupletBracket,
    TupletNumber,
    Technique,
    Vibrato,
    TechniqueLine,
    Position,
    Barre,
    BarreLine,
    Chord,
    Grip,
    Section,
    Ending,
    EndingLine,
    Tempo,
    Dynamic,
    Hairpin, // getting louder or softer
    Fermata,
    Jump, // signs to jump from and to
    Words,
    BarNumber,
    Finger,
    FingerLine,
    Stroke,
    Count,
    RowName,
    Tuning,
    Head1, // title
    Head2, // what stands under it
    Foot,
    Doubt,
    Basis
};

struct Box {
    double left = 0.0, top = 0.0, right = 0.0, bottom = 0.0;
    double width() const { return right - left; }
    double height() const { return bottom - top; }
    bool operator==(const Box&) const = default;
};
bool overlap(const Box& a, const Box& b, double by_mm = 0.0);

struct GlyphInk {
    char32_t code = 0;
    double x = 0.0, y = 0.0; // origin
    double space = 1.75;     // mm of a staff space
};
struct TextInk {
    std::string text;
    double x = 0.0, baseline = 0.0; // left end
    double size = 3.0;              // mm of an em
    bool strong = false;
};
struct LineInk {
    double x1 = 0.0, y1 = 0.0, x2 = 0.0, y2 = 0.0;
    double width = 0.15;
    bool dashed = false;
};
struct Point {
    double x = 0.0, y = 0.0;
};
struct ShapeInk {
    std::vector<Point> points;
    double width = 0.0; // of its outline; 0: filled, and closed
};
struct CurveInk { // from `from` to `to`, thick in the middle where `thickness` says so
    Point from, c1, c2, to;
    double end_width = 0.15;
    double thickness = 0.0;
};

struct Ink {
    Sign sign = Sign::Number;
    NoteId note = 0; // what it belongs to; 0: no note
    Box box;
    std::variant<GlyphInk, TextInk, LineInk, ShapeInk, CurveInk> what;
    bool on_paper = false; // lines behind it are interrupted
};

// Whether two marks may lie on one another: a head and its stem, stem and beam, number and line,
// curves and brackets; everything else is apart.
bool mayTouch(const Ink& a, const Ink& b);

// The same mark elsewhere.
void move(Ink& ink, double dx, double dy);

struct Moment { // where a place of the score stands
    Rational quarters;
    double x = 0.0;
};
// A bar as it stands; what is played more than once from one bar has a place for each time.
struct BarPlace {
    Rational start, end; // quarter notes from bar 1
    double left = 0.0, right = 0.0;
    std::vector<Moment> moments; // rising; the last one is its end
};
struct SystemPlace {
    Box box;                                    // from its highest to its lowest mark
    double staff_top = 0.0, staff_bottom = 0.0; // of the tab
    double line_gap = 0.0;
    std::vector<BarPlace> bars;
};
struct SheetPage {
    double width = 210.0, height = 297.0;
    std::vector<Ink> ink;
    std::vector<SystemPlace> systems;
};

} // namespace wirenote
