// What stands on the sheet of a piece, and how much of it is written out: a person's choice.
#pragma once

namespace wirenote {

enum class SheetStaves { Tab, TabAndStaff };
// A hand-out is small, a stand is read from a metre away, a screen is wider than high.
enum class SheetSize { HandOut, Stand, Screen };
// Everything written out; repeat signs with endings for what comes again at once; or these, and
// bars that were there before by their number ("as bar 3, without the high note"); or that, and
// what comes again at once within a bar as a cell with "×4" over it.
enum class SheetRepeats { WrittenOut, Signs, ByNumber, Cells };

struct SheetStyle {
    SheetStaves staves = SheetStaves::Tab;
    SheetSize size = SheetSize::HandOut;
    SheetRepeats repeats = SheetRepeats::WrittenOut;
    bool fingers = true;
    bool holds = false; // fingers as lanes: how long each stays down
    bool positions = true;
    bool strokes = true;
    bool count = false;
    bool chords = true;
    bool grips = false;
    bool techniques = true;
    bool voices = true; // a bass under a tune with a length of its own
    bool doubts = true; // marked where they are; else counted at the end
    bool basis = false; // how each place is known: heard, seen, reasoned, set
    bool key_to_signs = true;
    bool exactness = true; // how exact it is, in its head
    bool operator==(const SheetStyle&) const = default;
};

} // namespace wirenote
