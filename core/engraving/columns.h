// A bar as columns: what begins together stands above one another, and takes so much room.
#pragma once

#include "engraving/measures.h"
#include "engraving/notation.h"
#include "music/instrument.h"
#include "score/sheet.h"

#include <map>
#include <vector>

namespace wirenote {

struct Column {
    Rational at;                    // quarter notes from bar 1
    double left = 0.0, right = 0.0; // what it holds on either side of its middle, mm
    double ideal = 0.0;             // room to the next one, or to the end of the bar
    double x = 0.0;                 // its middle, from the left end of the system
};

// How a bar is to be set: what stands before its notes, its columns, and how wide it is.
struct SetBar {
    const Bar* bar = nullptr;
    PrintedBar print;
    bool new_metre = false;
    double before = 0.0; // from its left line to its first column's left edge
    double after = 0.0;  // behind its last column
    std::vector<Column> columns;
    std::vector<WrittenChord> chords; // in notation; empty where there is none
    double x = 0.0, width = 0.0;      // in its system

    double least_gap = 0.0;

    // With ideal room between columns times `spread`, but never so little that they touch.
    double widthAt(double spread) const;
    void place(double from, double spread);
    double gap(std::size_t column, double spread) const; // to the next one, or to the bar's end
};

// What a number, a chord of them, or what is about them needs on each side of a column.
class RoomOfMarks {
  public:
    RoomOfMarks(const Piece& piece, const Sheet& sheet, const Measures& m)
        : m_piece(piece), m_sheet(sheet), m_m(m) {}
    SetBar set(const PrintedBar& print, bool new_metre) const;

  private:
    using Columns = std::map<Rational, Column>;
    SetBar around(const PrintedBar& print, bool new_metre) const; // without its columns
    void addSigns(Rational from, Rational to, Columns& columns) const;
    void roomOf(const Value& value, Column& column) const;
    void tabRoom(const Value& value, Column& column) const;
    void rowRoom(const Value& value, Column& column) const;
    void notationRoom(const Value& value, Column& column) const;
    const Piece& m_piece;
    const Sheet& m_sheet;
    const Measures& m_m;
};

// "as bar 3", of a bar that is not printed itself.
std::string asBarText(const PrintedBar& print);

// "7", "<12>", "×"; in brackets where it is tied. As on the line of its string.
std::string numberText(const Note& note, Position place, bool tied);

} // namespace wirenote
