// What lies where on the pages of a sheet.
#pragma once

#include "engraving/ink.h"

#include <optional>

namespace wirenote::app {

struct SheetPoint { // in millimetres of its page
    std::size_t page = 0;
    double x = 0.0, y = 0.0;
};
struct SheetSpot {
    std::size_t page = 0;
    Box box; // mm
    NoteId note = 0;
};

// The note whose number or head is there or close by; 0: none.
NoteId noteAt(const std::vector<SheetPage>& pages, const SheetPoint& point);
// The numbers and heads of these notes.
std::vector<SheetSpot> spotsOf(const std::vector<SheetPage>& pages,
                               const std::vector<NoteId>& notes);
// Where a place of the score (quarter notes from bar 1) stands: a line over its system.
std::optional<SheetSpot> spotAtQuarters(const std::vector<SheetPage>& pages, double quarters);
// The place of the score at a point within a system.
std::optional<double> quartersAt(const std::vector<SheetPage>& pages, const SheetPoint& point);

} // namespace wirenote::app
