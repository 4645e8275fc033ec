// The plain tab page: what goes where, in millimetres from the top left of the paper. The interface
// and the PDF draw the same marks.
#pragma once

#include "piece/piece.h"
#include "score/bars.h"

#include <string>
#include <vector>

namespace wirenote {

struct PageFormat {
    double width_mm = 210.0; // ISO 216 A4
    double height_mm = 297.0;
    double margin_mm = 15.0;
    double line_gap_mm = 2.6;    // between two lines of the tab staff
    double system_gap_mm = 16.0; // below a staff, for stems and strokes
    double note_space_mm = 5.2;  // least room of one written value
};

enum class TextRole {
    Title,
    Subtitle,
    FretNumber,
    BarNumber,
    Position,
    Finger,
    Tuning,
    Footer,
    Technique
};

struct PageText {
    double x_mm = 0.0; // middle
    double y_mm = 0.0; // middle
    TextRole role = TextRole::FretNumber;
    std::string text;
    bool doubtful = false; // open doubt on this decision
};

struct PageLine {
    double x1_mm = 0.0, y1_mm = 0.0, x2_mm = 0.0, y2_mm = 0.0;
    double width_mm = 0.15;
};

enum class MarkKind { DownStroke, UpStroke, Slur };
struct PageMark {
    MarkKind kind = MarkKind::DownStroke;
    double x_mm = 0.0, y_mm = 0.0; // middle; for a slur its left end
    double x2_mm = 0.0;            // right end of a slur
};

struct TabPage {
    std::vector<PageLine> lines;
    std::vector<PageText> texts;
    std::vector<PageMark> marks;
};

// At least one page. Rhythm is shown by stems and flags below the staff.
std::vector<TabPage> layOutTabPages(const Piece& piece, const PageFormat& format = {});

} // namespace wirenote
