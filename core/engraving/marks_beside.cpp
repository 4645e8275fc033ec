#include "engraving/marks_beside.h"

#include "engraving/rows.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kHairpinOpen = 0.9;  // staff spaces, at its open end: 1 to 2 is common practice
constexpr double kHairpinLine = 0.16; // staff spaces (SMuFL engravingDefaults, hairpinThickness)
constexpr double kLeastHairpin_mm = 3.0;

std::vector<Glyph> lettersOf(const std::string& dynamic) {
    std::vector<Glyph> letters;
    for (const char c : dynamic)
        letters.push_back(c == 'p'   ? Glyph::DynamicP
                          : c == 'm' ? Glyph::DynamicM
                          : c == 'f' ? Glyph::DynamicF
                          : c == 'r' ? Glyph::DynamicR
                          : c == 's' ? Glyph::DynamicS
                                     : Glyph::DynamicZ);
    return letters;
}

// What they reach on either side of where the first of them begins, in mm.
std::pair<double, double> reachOf(const std::vector<Glyph>& letters, double space) {
    double left = 0.0;
    double right = 0.0;
    double x = 0.0;
    for (const Glyph letter : letters) {
        left = std::min(left, x + metricsOf(letter).left * space);
        right = std::max(right, x + metricsOf(letter).right * space);
        x += metricsOf(letter).advance * space;
    }
    return {left, right};
}

// One level, or a stretch of it, of one system.
struct Loudness {
    const MarkSign* mark = nullptr;
    double left = 0.0, right = 0.0;
    double open_left = 0.0, open_right = 0.0; // of a hairpin, as shares
};

class Dynamics {
  public:
    Dynamics(const SystemContext& system, Block& block)
        : m_s(system), m_b(block), m_space(system.m.space) {}

    void draw() {
        if (m_s.bars.empty())
            return;
        for (const MarkSign& mark : m_s.sheet.marks)
            if (mark.kind == MarkKind::Dynamic)
                addLevel(mark);
        const std::size_t levels = m_row.size();
        for (const MarkSign& mark : m_s.sheet.marks)
            if (goesOn(mark.kind))
                addHairpin(mark, levels);
        if (m_row.empty())
            return;
        const double high = metricsOf(Glyph::DynamicF).height() * m_space;
        double top = m_b.under(-8.0, -1.0, 0.4);
        for (const Loudness& one : m_row)
            top = std::max(
                top,
                m_b.under(one.left - m_s.m.apart, one.right + m_s.m.apart, 1.4 * m_s.m.row_gap));
        const double baseline = top + metricsOf(Glyph::DynamicF).top * m_space;
        for (const Loudness& one : m_row)
            one.mark->kind == MarkKind::Dynamic ? level(one, baseline) : hairpin(one, baseline);
        constexpr double kName_mm = 2.1;
        m_b.text(Sign::RowName,
                 "loudness",
                 -1.0,
                 top + high / 2.0 + 0.2 * kName_mm,
                 kName_mm,
                 false,
                 Block::Align::Right);
    }

  private:
    void addLevel(const MarkSign& mark) {
        const Column* column = m_s.columnAt(mark.from);
        if (!column)
            return;
        const auto [before, after] = reachOf(lettersOf(mark.text), m_space);
        const double left = column->x - 0.5 * std::min(after - before, 2.0 * m_space);
        if (m_row.empty() || m_row.back().right + m_s.m.apart < left) // no room: the first holds
            m_row.push_back({&mark, left, left + after - before, 0.0, 0.0});
    }

    void addHairpin(const MarkSign& mark, std::size_t levels) {
        const Rational start = m_s.bars.front().bar->start;
        const Rational end = m_s.bars.back().bar->start + m_s.bars.back().bar->length;
        const Column* from = m_s.columnAt(std::max(mark.from, start));
        if (mark.to <= start || mark.from >= end || !from)
            return;
        const Column* to = mark.to < end ? m_s.columnUpTo(mark.to) : nullptr;
        const double whole = (mark.to - mark.from).toDouble();
        const auto share = [&](Rational at) {
            return std::clamp((at - mark.from).toDouble() / whole, 0.0, 1.0);
        };
        Loudness one{&mark,
                     mark.from < start ? 0.6 : from->x,
                     to ? to->x : m_s.width - 0.8,
                     share(start),
                     share(end)};
        if (mark.kind == MarkKind::Softer) {
            one.open_left = 1.0 - one.open_left;
            one.open_right = 1.0 - one.open_right;
        }
        for (std::size_t k = 0; k < levels; ++k) { // between the levels it leads from and to
            const Loudness& there = m_row[k];
            if (there.left <= one.left + m_space && there.right + m_s.m.apart > one.left)
                one.left = there.right + m_s.m.apart;
            if (there.left > one.left && there.left - m_s.m.apart < one.right)
                one.right = there.left - m_s.m.apart;
        }
        const bool free = std::ranges::none_of(m_row, [&](const Loudness& other) {
            return goesOn(other.mark->kind) && other.left < one.right && one.left < other.right;
        });
        if (free && one.right - one.left >= kLeastHairpin_mm)
            m_row.push_back(one);
    }

    void level(const Loudness& one, double baseline) {
        const auto letters = lettersOf(one.mark->text);
        double x = one.left - reachOf(letters, m_space).first;
        for (const Glyph letter : letters) {
            m_b.glyph(Sign::Dynamic, letter, x, baseline, m_space);
            x += metricsOf(letter).advance * m_space;
        }
    }

    void hairpin(const Loudness& one, double baseline) {
        const double middle = baseline - 0.5 * metricsOf(Glyph::DynamicM).height() * m_space;
        const double half = kHairpinOpen * m_space / 2.0 * 1.2;
        for (const double side : {-1.0, 1.0})
            m_b.line(Sign::Hairpin,
                     {one.left,
                      middle + side * half * one.open_left,
                      one.right,
                      middle + side * half * one.open_right,
                      kHairpinLine * m_space,
                      false});
    }

    const SystemContext& m_s;
    Block& m_b;
    double m_space;
    std::vector<Loudness> m_row;
};

void glyphOver(
    const SystemContext& system, Block& block, Sign sign, Glyph glyph, double x, double space) {
    const double half = metricsOf(glyph).width() * space / 2.0;
    const double bottom = std::min(-1.9, block.over(x - half, x + half, system.m.apart));
    block.glyphAt(sign, glyph, x, bottom - metricsOf(glyph).height() * space / 2.0, space);
}

// Begins a little before its note; what would run over the end of the system ends there.
void wordsOver(const SystemContext& system, Block& block, const std::string& words, double x) {
    const double size = system.m.small;
    const double width = textWidth(words, true) * size;
    const double left = std::max(0.0, std::min(x - 1.2, system.width - width));
    const double bottom = std::min(-1.9, block.over(left, left + width, system.m.apart));
    block.text(Sign::Words, words, left, bottom - 0.22 * size, size, true, Block::Align::Left);
}

} // namespace

void drawDynamics(const SystemContext& system, Block& block) {
    Dynamics(system, block).draw();
}

void drawMarksOver(const SystemContext& system, Block& block) {
    const double space = system.m.space;
    for (const MarkKind kind :
         {MarkKind::Fermata, MarkKind::Segno, MarkKind::Coda, MarkKind::Words})
        for (const MarkSign& mark : system.sheet.marks) {
            const Column* column = mark.kind == kind ? system.columnAt(mark.from) : nullptr;
            if (!column)
                continue;
            if (kind == MarkKind::Fermata)
                glyphOver(system, block, Sign::Fermata, Glyph::Fermata, column->x, 0.9 * space);
            else if (kind == MarkKind::Segno)
                glyphOver(system, block, Sign::Jump, Glyph::Segno, column->x, 0.9 * space);
            else if (kind == MarkKind::Coda)
                glyphOver(system, block, Sign::Jump, Glyph::Coda, column->x, 0.8 * space);
            else
                wordsOver(system, block, mark.text, column->x);
        }
}

} // namespace wirenote
