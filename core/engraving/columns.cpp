#include "engraving/columns.h"

#include "engraving/rows.h"
#include "engraving/tab_staff.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace wirenote {
namespace {

constexpr double kBendRoom = 4.2; // mm of a hand-out, as all below
constexpr double kRollRoom = 1.5;
constexpr double kDotRoom = 1.5;
constexpr double kNumberPad = 0.45;

double least(const Column& a, const Column& b, double gap) {
    return a.right + b.left + gap;
}

} // namespace

std::string asBarText(const PrintedBar& print) {
    return "as bar " + std::to_string(print.as_bar) + (print.except.empty() ? "" : ",");
}

std::string numberText(const Note& note, Position place, bool tied) {
    std::string text = note.pitched() ? std::to_string(place.fret) : "×";
    if (note.pitched() && note.has(Technique::Harmonic))
        text = "<" + text + ">";
    return tied ? "(" + text + ")" : text;
}

double SetBar::gap(std::size_t column, double spread) const {
    const Column& here = columns[column];
    if (column + 1 == columns.size())
        return std::max(here.right + after, spread * here.ideal);
    return std::max(least(here, columns[column + 1], least_gap), spread * here.ideal);
}

double SetBar::widthAt(double spread) const {
    if (columns.empty())
        return before + after;
    double sum = before + columns.front().left;
    for (std::size_t c = 0; c < columns.size(); ++c)
        sum += gap(c, spread);
    return sum;
}

void SetBar::place(double from, double spread) {
    x = from;
    double at = from + before + (columns.empty() ? 0.0 : columns.front().left);
    for (std::size_t c = 0; c < columns.size(); ++c) {
        columns[c].x = at;
        at += gap(c, spread);
    }
    width = widthAt(spread);
}

namespace {

Column& columnAt(Rational place, std::map<Rational, Column>& columns) {
    Column& column = columns[place];
    column.at = place;
    return column;
}

} // namespace

SetBar RoomOfMarks::around(const PrintedBar& print, bool new_metre) const {
    const Bar& bar = m_sheet.score.bars[print.bar];
    const bool notation = m_piece.sheet.staves == SheetStaves::TabAndStaff;
    const double tab_metre = tabMetreSpace(m_piece, m_m);
    SetBar set;
    set.bar = &bar;
    set.print = print;
    set.new_metre = new_metre;
    set.least_gap = m_m.least_gap;
    set.before =
        m_m.bar_left +
        (new_metre
             ? 1.2 + metreWidth(bar.metre, notation ? std::max(m_m.space, tab_metre) : tab_metre)
             : 0.0) +
        (print.repeat_begins ? 1.4 * m_m.space : 0.0);
    set.after = m_m.bar_right + (print.repeat_ends ? 1.4 * m_m.space : 0.0);
    return set;
}

// What stands over and under the notes, and begins where no note does.
void RoomOfMarks::addSigns(Rational from, Rational to, Columns& columns) const {
    auto mark = std::ranges::lower_bound(m_sheet.count, from, {}, &CountMark::quarters);
    for (; mark != m_sheet.count.end() && mark->quarters < to; ++mark) {
        Column& column = columnAt(mark->quarters, columns);
        const double half = textWidth(countText(*mark), mark->sounds) * m_m.count / 2.0 + 0.3;
        column.left = std::max(column.left, half);
        column.right = std::max(column.right, half);
    }
    if (m_piece.sheet.chords)
        for (const ChordSign& chord : m_sheet.chords)
            if (chord.at >= from && chord.at < to)
                columnAt(chord.at, columns);
    for (const MarkSign& sign : m_sheet.marks)
        if (sign.from >= from && sign.from < to)
            columnAt(sign.from, columns);
}

SetBar RoomOfMarks::set(const PrintedBar& print, bool new_metre) const {
    const Bar& bar = m_sheet.score.bars[print.bar];
    SetBar set = around(print, new_metre);
    if (print.as_bar > 0) { // words instead of notes
        const double width = std::max(textWidth(asBarText(print), true) * m_m.small,
                                      textWidth(print.except, false) * m_m.small);
        set.columns.push_back({bar.start, 0.8, width + 0.8, 0.0, 0.0});
        return set;
    }
    Columns columns;
    const auto at = [&](Rational place) -> Column& { return columnAt(place, columns); };
    for (const auto* values : {&bar.values, &bar.lower})
        for (const Value& value : *values)
            roomOf(value, at(bar.start + value.start));
    const Rational end = bar.start + print.shown(bar);
    addSigns(bar.start, end, columns);
    if (m_piece.sheet.staves == SheetStaves::TabAndStaff)
        set.chords = notationOf(m_piece, bar);
    for (const WrittenChord& chord : set.chords) {
        const Sides sides = sidesOf(chord);
        Column& column = at(bar.start + chord.value->start);
        column.left = std::max(column.left, sides.left * m_m.space);
        column.right = std::max(column.right, sides.right * m_m.space);
    }
    for (auto& [place, column] : columns)
        set.columns.push_back(column);
    for (std::size_t c = 0; c < set.columns.size(); ++c) {
        const Rational next = c + 1 < set.columns.size() ? set.columns[c + 1].at : end;
        set.columns[c].ideal = m_m.quarter * std::sqrt((next - set.columns[c].at).toDouble());
    }
    return set;
}

void RoomOfMarks::roomOf(const Value& value, Column& column) const {
    tabRoom(value, column);
    rowRoom(value, column);
    const bool rhythm = m_piece.sheet.staves == SheetStaves::Tab;
    if (!rhythm)
        return;
    const double half = value.rest() ? metricsOf(restGlyph(value.type)).width() * m_m.rhythm / 2.0
                                     : 0.65 * m_m.rhythm;
    double right = half;
    if (const auto flag = flagGlyph(value.type, false); flag && !value.rest() && value.beam == 0)
        right = std::max(right, metricsOf(*flag).right * m_m.rhythm);
    if (value.dots > 0)
        right += kDotRoom * value.dots;
    column.left = std::max(column.left, half);
    column.right = std::max(column.right, right);
}

void RoomOfMarks::tabRoom(const Value& value, Column& column) const {
    double graces = 0.0;
    double roll = 0.0;
    int bends = 0;
    for (const std::size_t i : value.notes) {
        const Note& note = m_piece.notes[i];
        const NotePlan& plan = m_piece.asPlayed().plans[i];
        if (!plan.placed())
            continue;
        const double half =
            textWidth(numberText(note, plan.position.value, value.tied_from_before), true) *
                m_m.number / 2.0 +
            kNumberPad;
        column.left = std::max(column.left, half);
        double right = half;
        if (!value.tied_from_before && m_piece.sheet.techniques &&
            (note.has(Technique::Bend) || note.has(Technique::PreBend)))
            right += (note.has(Technique::Release) ? 1.7 * kBendRoom : kBendRoom) + 2.6 * bends++;
        column.right = std::max(column.right, right);
        roll = note.has(Technique::Roll) && !value.tied_from_before ? kRollRoom : roll;
    }
    for (const std::size_t i : value.graces)
        if (const NotePlan& plan = m_piece.asPlayed().plans[i]; plan.placed())
            graces += textWidth(numberText(m_piece.notes[i], plan.position.value, false), true) *
                          m_m.grace +
                      0.8;
    column.left += roll + graces;
}

// Strokes, fingers: what stands under the column.
void RoomOfMarks::rowRoom(const Value& value, Column& column) const {
    if (value.rest() || value.tied_from_before)
        return;
    const double half = rowWidth(m_piece, value, m_m) / 2.0 + 0.3;
    column.left = std::max(column.left, half);
    column.right = std::max(column.right, half);
}

} // namespace wirenote
