// The named measures of a sheet, in millimetres of a hand-out; other sizes are multiples. Where a
// measure is in staff spaces it is the font's (SMuFL engraving defaults); the others follow common
// practice (books on engraving, from memory).
#pragma once

#include "piece/sheet_style.h"

#include <initializer_list>

namespace wirenote {

struct Measures {
    double page_width = 210.0, page_height = 297.0; // ISO 216 A4
    double margin = 14.0;
    double left_margin = 8.0; // more, for names of strings and rows

    double space = 1.75;   // between two lines of a staff in notation: 7 mm high
    double line_gap = 2.6; // between two lines of the tab
    double number = 3.0;   // em of a fret number: digits 2.2 mm high, so that strings stay apart
    double grace = 2.2;    // em of a grace's number
    double small = 2.45;   // em of words in the music
    double count = 2.6;    // em of the count
    double chord = 3.6;    // em of chord names
    double section = 3.2;  // em of section names
    double title = 7.0, subtitle = 4.0, facts = 3.0, foot = 2.7; // ems

    double quarter = 9.0;   // ideal room of a quarter; others by the root of their length
    double least_gap = 0.9; // between what two columns hold
    double bar_left = 2.2, bar_right = 1.6; // from bar line to what is in the bar
    double tightest = 0.72;                 // how far ideal room may be pressed together
    double loosest = 1.35;                  // how far a last system is spread

    double stem = 6.2;       // of the rhythm under a tab
    double stem_gap = 1.9;   // from the outer line of the tab to a stem
    double rhythm = 1.4;     // staff space of flags, dots and heads of the rhythm
    double apart = 0.7;      // between marks
    double row_gap = 1.0;    // between rows
    double staves_gap = 4.0; // between notation and tab
    double system_gap = 6.5; // between systems, at least
    double system_gap_most = 14.0;
    double head_gap = 7.0; // from the head to the first system

    // Everything but the paper.
    void scale(double k) {
        for (double* d : {&left_margin, &space,     &line_gap,   &number,     &grace,
                          &small,       &count,     &chord,      &section,    &title,
                          &subtitle,    &facts,     &foot,       &quarter,    &least_gap,
                          &bar_left,    &bar_right, &stem,       &stem_gap,   &rhythm,
                          &apart,       &row_gap,   &staves_gap, &system_gap, &system_gap_most,
                          &head_gap})
            *d *= k;
    }
};

// Of a size of sheet.
inline Measures measuresFor(SheetSize size) {
    Measures m;
    if (size == SheetSize::Screen) { // 16 to 10, as wide as a page is high
        m.page_width = 297.0;
        m.page_height = 186.0;
    }
    m.scale(size == SheetSize::HandOut ? 1.0 : size == SheetSize::Stand ? 1.3 : 1.15);
    return m;
}

} // namespace wirenote
