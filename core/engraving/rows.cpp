#include "engraving/rows.h"

#include "engraving/marks_beside.h"
#include "score/marks.h"

#include <array>
#include <cmath>

namespace wirenote {

std::vector<SystemContext::Struck> SystemContext::struck() const {
    std::vector<Struck> all;
    const auto collect = [&](const SetBar& set, const std::vector<Value>& values) {
        for (const Value& value : values) {
            if (value.rest() || value.tied_from_before)
                continue;
            const Column* column = columnAt(set.bar->start + value.start);
            if (!column) // of a bar that stands by its number
                continue;
            auto found = std::ranges::find(all, column, &Struck::column);
            if (found == all.end())
                found = all.insert(all.end(), {column, {}});
            found->notes.insert(found->notes.end(), value.notes.begin(), value.notes.end());
        }
    };
    for (const SetBar& set : bars) {
        collect(set, set.bar->values);
        collect(set, set.bar->lower);
    }
    for (Struck& one : all)
        std::ranges::stable_sort(one.notes, {}, [&](std::size_t i) {
            return piece.asPlayed().plans[i].position.value.string;
        });
    return all;
}

namespace {

constexpr double kStrokeSpace = 0.85; // of the staff space
constexpr double kLetterSpace = 0.95;
constexpr double kDigitSpace = 0.95;
constexpr double kStackGap_mm = 0.45;
constexpr double kDoubtPad_mm = 0.35;

std::optional<Glyph> pluckGlyph(Stroke stroke) {
    switch (stroke) {
    case Stroke::P:
        return Glyph::PluckP;
    case Stroke::I:
        return Glyph::PluckI;
    case Stroke::M:
        return Glyph::PluckM;
    case Stroke::A:
        return Glyph::PluckA;
    case Stroke::C:
        return Glyph::PluckC;
    default:
        return {};
    }
}

std::optional<Glyph> fingerGlyph(Finger finger) {
    switch (finger) {
    case Finger::Index:
        return Glyph::Finger1;
    case Finger::Middle:
        return Glyph::Finger2;
    case Finger::Ring:
        return Glyph::Finger3;
    case Finger::Little:
        return Glyph::Finger4;
    case Finger::Thumb:
        return Glyph::FingerT;
    default:
        return {};
    }
}

// One mark of a stack.
struct Stacked {
    Glyph glyph;
    double space;
    NoteId note;
    bool doubtful;
};

double widthOf(const Stacked& mark) {
    return metricsOf(mark.glyph).width() * mark.space + (mark.doubtful ? 1.2 : 0.0);
}

double heightOf(const std::vector<Stacked>& stack) {
    double height = 0.0;
    for (const Stacked& mark : stack)
        height += metricsOf(mark.glyph).height() * mark.space + kStackGap_mm;
    return height;
}

// From the top down.
void drawStack(Block& block, Sign sign, const std::vector<Stacked>& stack, double x, double top) {
    for (const Stacked& mark : stack) {
        const GlyphMetrics& m = metricsOf(mark.glyph);
        const double y = top + m.top * mark.space;
        block.glyph(
            sign, mark.glyph, x - (m.left + m.right) / 2.0 * mark.space, y, mark.space, mark.note);
        if (mark.doubtful)
            block.doubt({x - m.width() / 2.0 * mark.space - kDoubtPad_mm,
                         top - kDoubtPad_mm,
                         x + m.width() / 2.0 * mark.space + kDoubtPad_mm,
                         top + m.height() * mark.space + kDoubtPad_mm},
                        mark.note);
        top += m.height() * mark.space + kStackGap_mm;
    }
}

struct RowMark {
    double x = 0.0;
    std::vector<Stacked> stack;
    double width() const {
        double w = 0.0;
        for (const Stacked& mark : stack)
            w = std::max(w, widthOf(mark));
        return w;
    }
};

// Strokes of what is struck together: the pick's way, then the fingers, the thinnest on top.
std::vector<Stacked> strokesOfColumn(const Piece& piece,
                                     const Sheet* sheet,
                                     const std::vector<std::size_t>& notes,
                                     const Measures& m) {
    std::vector<Stacked> stack;
    std::optional<Stacked> pick;
    for (const std::size_t i : notes) {
        const Stroke stroke = piece.asPlayed().plans[i].stroke.value;
        const NoteId id = piece.notes[i].id;
        const bool doubtful = sheet && piece.sheet.doubts && sheet->doubtful_strokes.contains(id);
        if (stroke == Stroke::Down || stroke == Stroke::Up) {
            if (!pick)
                pick = {stroke == Stroke::Down ? Glyph::DownBow : Glyph::UpBow,
                        kStrokeSpace * m.space,
                        id,
                        doubtful};
            pick->doubtful = pick->doubtful || doubtful;
        } else if (const auto letter = pluckGlyph(stroke)) {
            // One finger over several strings is one movement.
            if (std::ranges::find(stack, *letter, &Stacked::glyph) == stack.end())
                stack.push_back({*letter, kLetterSpace * m.space, id, doubtful});
        }
    }
    if (pick)
        stack.push_back(*pick);
    return stack;
}

std::vector<Stacked> fingersOfColumn(const Piece& piece,
                                     const Sheet* sheet,
                                     const std::vector<std::size_t>& notes,
                                     const Measures& m) {
    std::vector<Stacked> stack;
    for (const std::size_t i : notes) {
        const NotePlan& plan = piece.asPlayed().plans[i];
        const NoteId id = piece.notes[i].id;
        if (plan.placed() && plan.position.value.fret > 0)
            if (const auto digit = fingerGlyph(plan.finger.value))
                stack.push_back(
                    {*digit,
                     kDigitSpace * m.space,
                     id,
                     sheet && piece.sheet.doubts && sheet->doubtful_fingers.contains(id)});
    }
    return stack;
}

void rowName(Block& block, const char* name, double middle) {
    constexpr double kSize_mm = 2.1;
    block.text(
        Sign::RowName, name, -1.0, middle + 0.36 * kSize_mm, kSize_mm, false, Block::Align::Right);
}

// Below the names of the rows so far.
double underNames(const Block& block) {
    return block.under(-8.0, -1.0, 0.4);
}

// All marks of the row on one line, below everything that is over any of them.
void drawRow(const SystemContext& system,
             Block& block,
             Sign sign,
             const char* name,
             const std::vector<RowMark>& marks) {
    double top = std::max(block.under(0.0, 0.0, system.m.row_gap),
                          system.tabHeight() + 1.4 * system.m.row_gap + 0.6);
    double height = 0.0;
    top = std::max(top, underNames(block));
    for (const RowMark& mark : marks) {
        top = std::max(top,
                       block.under(mark.x - mark.width() / 2.0 - system.m.apart,
                                   mark.x + mark.width() / 2.0 + system.m.apart,
                                   system.m.row_gap));
        height = std::max(height, heightOf(mark.stack));
    }
    if (height == 0.0)
        return;
    double tallest_one = 0.0;
    for (const RowMark& mark : marks)
        if (!mark.stack.empty())
            tallest_one =
                std::max(tallest_one,
                         metricsOf(mark.stack.front().glyph).height() * mark.stack.front().space);
    for (const RowMark& mark : marks) {
        // What stands alone stands in the middle of the row's first line.
        const double own = mark.stack.size() == 1 ? metricsOf(mark.stack.front().glyph).height() *
                                                        mark.stack.front().space
                                                  : tallest_one;
        drawStack(block, sign, mark.stack, mark.x, top + (tallest_one - own) / 2.0);
    }
    rowName(block, name, top + tallest_one / 2.0);
}

void drawStrokes(const SystemContext& system, Block& block) {
    std::vector<RowMark> marks;
    for (const auto& struck : system.struck())
        if (auto stack = strokesOfColumn(system.piece, &system.sheet, struck.notes, system.m);
            !stack.empty())
            marks.push_back({struck.column->x, std::move(stack)});
    drawRow(system, block, Sign::Stroke, "strokes", marks);
}

void drawFingers(const SystemContext& system, Block& block) {
    std::vector<RowMark> marks;
    for (const auto& struck : system.struck())
        if (auto stack = fingersOfColumn(system.piece, &system.sheet, struck.notes, system.m);
            !stack.empty())
            marks.push_back({struck.column->x, std::move(stack)});
    drawRow(system, block, Sign::Finger, "fingers", marks);
}

// One finger through the system: where it is put down, and how long it stays. False: never.
bool drawLane(const SystemContext& system, Block& block, Finger finger, double y) {
    const Rational from = system.bars.front().bar->start;
    const Rational to = system.bars.back().bar->start + system.bars.back().bar->length;
    const double space = kDigitSpace * system.m.space;
    const Glyph digit = *fingerGlyph(finger);
    const double half = metricsOf(digit).width() * space / 2.0;
    double last_x = -1e9;
    for (const HoldSign& hold : system.sheet.holds) {
        if (hold.finger != finger || hold.to <= from || hold.from >= to)
            continue;
        const Column* column = system.columnAt(std::max(hold.from, from));
        if (!column || column->x <= last_x) // one finger is at one place at a time
            continue;
        last_x = column->x;
        const bool begins = hold.from >= from;
        if (begins)
            block.glyphAt(Sign::Finger, digit, column->x, y, space, hold.note);
        const Column* off = hold.to < to ? system.columnAt(hold.to) : nullptr;
        const double end = off ? off->x - half - 0.6 : system.width - 0.6;
        const double begin = column->x + (begins ? half + 0.5 : 0.0);
        if (end - begin > 1.0)
            block.line(Sign::FingerLine, {begin, y, end, y, 0.2, false}, hold.note);
    }
    return last_x > -1e9;
}

void drawHolds(const SystemContext& system, Block& block) {
    if (system.bars.empty())
        return;
    const double space = kDigitSpace * system.m.space;
    const double first =
        std::max(block.under(0.0, system.width, system.m.row_gap), underNames(block)) + space / 2.0;
    double y = first;
    for (const Finger finger :
         {Finger::Index, Finger::Middle, Finger::Ring, Finger::Little, Finger::Thumb})
        if (drawLane(system, block, finger, y))
            y += 1.35 * space;
    if (y > first)
        rowName(block, "fingers", first);
}

// The marks of heard, seen, reasoned and set: a wave, a ring, a caret, a pin.
void basisMark(Block& block, Basis basis, double x, double y, NoteId note) {
    constexpr double kLine_mm = 0.2;
    ShapeInk shape{{}, kLine_mm};
    switch (basis) {
    case Basis::Heard:
        for (int k = -4; k <= 4; ++k)
            shape.points.push_back({x + 0.25 * k, y - 0.5 * std::sin(k * 0.7853981633974483)});
        break;
    case Basis::Seen:
        for (int k = 0; k <= 12; ++k)
            shape.points.push_back({x + 0.6 * std::cos(k * 0.5235987755982988),
                                    y + 0.6 * std::sin(k * 0.5235987755982988)});
        break;
    case Basis::Reasoned:
        shape.points = {{x - 0.75, y + 0.45}, {x, y - 0.55}, {x + 0.75, y + 0.45}};
        break;
    case Basis::Set:
        for (int k = 0; k < 12; ++k)
            shape.points.push_back({x + 0.4 * std::cos(k * 0.5235987755982988),
                                    y - 0.35 + 0.4 * std::sin(k * 0.5235987755982988)});
        shape.width = 0.0;
        block.line(Sign::Basis, {x, y, x, y + 0.75, kLine_mm, false}, note);
        break;
    }
    block.shape(Sign::Basis, std::move(shape), note);
}

// One a string, the thinnest on top.
void drawBasis(const SystemContext& system, Block& block) {
    constexpr double kStep_mm = 1.9;
    const double first =
        std::max(block.under(0.0, system.width, system.m.row_gap), underNames(block)) + 0.8;
    for (const auto& struck : system.struck()) {
        double y = first;
        for (const std::size_t i : struck.notes) {
            const NotePlan& plan = system.piece.asPlayed().plans[i];
            if (!plan.placed())
                continue;
            basisMark(block, plan.position.basis, struck.column->x, y, system.piece.notes[i].id);
            y += kStep_mm;
        }
    }
    rowName(block, "known by", first);
}

void drawCount(const SystemContext& system, Block& block) {
    const auto inside = [&](const CountMark& mark) { return system.columnAt(mark.quarters); };
    const double capital = textMetrics().capital * system.m.count;
    double baseline = underNames(block) + capital + 0.4;
    bool any = false;
    for (const CountMark& mark : system.sheet.count)
        if (const Column* column = inside(mark)) {
            const double half = textWidth(countText(mark), mark.sounds) * system.m.count / 2.0;
            baseline =
                std::max(baseline,
                         block.under(column->x - half, column->x + half, 1.8 * system.m.row_gap) +
                             capital + 0.2 * system.m.count);
            any = true;
        }
    if (!any)
        return;
    for (const CountMark& mark : system.sheet.count)
        if (const Column* column = inside(mark))
            block.text(
                Sign::Count, countText(mark), column->x, baseline, system.m.count, mark.sounds);
    rowName(block, "count", baseline - capital / 2.0);
}

} // namespace

std::string countText(const CountMark& mark) {
    return mark.sounds ? mark.text : "(" + mark.text + ")";
}

double rowWidth(const Piece& piece, const Value& value, const Measures& m) {
    RowMark strokes;
    RowMark fingers;
    if (piece.sheet.strokes)
        strokes.stack = strokesOfColumn(piece, nullptr, value.notes, m);
    if (piece.sheet.fingers || piece.sheet.holds)
        fingers.stack = fingersOfColumn(piece, nullptr, value.notes, m);
    return std::max(strokes.width(), fingers.width());
}

void drawRowsUnder(const SystemContext& system, Block& block) {
    if (system.style().strokes)
        drawStrokes(system, block);
    if (system.style().holds)
        drawHolds(system, block);
    else if (system.style().fingers)
        drawFingers(system, block);
    if (system.style().basis)
        drawBasis(system, block);
    if (system.style().count)
        drawCount(system, block);
    drawDynamics(system, block);
}

} // namespace wirenote
