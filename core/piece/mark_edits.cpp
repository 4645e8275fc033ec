#include "piece/edits.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {
constexpr double kSamePlace_s = 0.05;
} // namespace

Status PieceEditor::putMark(const SheetMark& mark) {
    std::erase_if(m_piece.marks, [&mark](const SheetMark& there) {
        return there.kind == mark.kind && std::abs(there.at_s - mark.at_s) <= kSamePlace_s;
    });
    if (m_piece.marks.size() >= kMaxSheetMarks)
        return badCall("a sheet has no more than " + std::to_string(kMaxSheetMarks) +
                       " marks; take some away first");
    m_piece.marks.push_back(mark);
    std::ranges::stable_sort(m_piece.marks, {}, &SheetMark::at_s);
    if (!soundMarks(m_piece.marks, kLongestPiece_s))
        return badCall(
            "this mark says nothing, or lies nowhere in the piece; choose a note for it");
    log("on the sheet: " + markText(mark), 0);
    return {};
}

Status PieceEditor::clearMarks(TimeRange span) {
    const auto gone = std::erase_if(m_piece.marks, [&span](const SheetMark& mark) {
        return mark.at_s > span.start_s - kSamePlace_s && mark.at_s < span.end_s + kSamePlace_s;
    });
    if (gone == 0)
        return badCall("there is no mark here to take away; choose the note it stands at");
    log("marks taken off the sheet", 0);
    return {};
}

} // namespace wirenote
