#include "engraving/rhythm.h"

#include "engraving/stems.h"

#include <cmath>

namespace wirenote {
namespace {

constexpr double kDot_mm = 1.0; // from a stem to its dot

class Rhythm {
  public:
    Rhythm(const SystemContext& system, Block& block) : m_s(system), m_b(block) {}

    void voice(const SetBar& bar, const std::vector<Value>& values, bool over, bool two) {
        std::vector<Stemmed> stems;
        std::vector<TupletPlace> places;
        // Nothing else comes between stems.
        const auto keep = [&](double a, double b) {
            m_b.reserve({bar.x, std::min(a, b), bar.x + bar.width, std::max(a, b)});
        };
        const double near = over ? -m_s.m.stem_gap : m_s.tabHeight() + m_s.m.stem_gap;
        const double far = over ? near - m_s.m.stem : near + m_s.m.stem;
        for (const Value& value : values) {
            const Column* column = m_s.columnAt(bar.bar->start + value.start);
            if (!column)
                continue;
            places.push_back({&value, column->x});
            if (value.rest()) {
                rest(bar, value, column->x, (near + far) / 2.0, two);
                continue;
            }
            const NoteId note = m_s.piece.notes[value.notes.front()].id;
            const double root = head(value, column->x, near, over, note);
            stems.push_back({&value, column->x, root, root, far, note});
            dots(value, column->x, near + (over ? -1.2 : 1.2), note);
        }
        keep(near, far);
        // Beams lie where free stems end.
        drawStems(m_b, stems, {over, m_s.m.rhythm, 0.0, m_s.m.stem - 1.4});
        drawTuplets(m_b, places, over, m_s.m.rhythm);
    }

  private:
    // Where the stem begins.
    double head(const Value& value, double x, double near, bool over, NoteId note) {
        if (value.type > NoteType::Half)
            return near;
        const Glyph glyph =
            value.type == NoteType::Whole ? Glyph::NoteheadWhole : Glyph::NoteheadHalf;
        const double middle = near + (over ? -0.5 : 0.5) * m_s.m.rhythm;
        m_b.glyphAt(Sign::Head, glyph, x, middle, m_s.m.rhythm, note);
        return near + (over ? -0.9 : 0.9) * m_s.m.rhythm;
    }

    void dots(const Value& value, double x, double y, NoteId note) {
        const double off = value.type <= NoteType::Half ? 0.85 * m_s.m.rhythm : 0.0;
        const double flag = value.beam == 0 && value.type >= NoteType::Eighth
                                ? metricsOf(Glyph::Flag8Down).width() * m_s.m.rhythm
                                : 0.0;
        for (int dot = 0; dot < value.dots; ++dot)
            m_b.glyphAt(
                Sign::Dot, Glyph::Dot, x + off + flag + kDot_mm + 1.2 * dot, y, m_s.m.rhythm, note);
    }

    void rest(const SetBar& bar, const Value& value, double x, double aside, bool two) {
        const double space = two ? m_s.m.rhythm : m_s.m.space;
        const bool whole_bar = value.length == bar.bar->length;
        const Glyph glyph = whole_bar ? Glyph::RestWhole : restGlyph(value.type);
        if (whole_bar && bar.columns.size() <= 1)
            x = bar.x + (bar.before + bar.width - bar.after) / 2.0;
        const GlyphMetrics& g = metricsOf(glyph);
        const int strings = m_s.piece.instrument.stringCount();
        double y = m_s.tabHeight() / 2.0;
        if (two)
            y = aside;
        else if (glyph == Glyph::RestWhole) // hangs from a line
            y = m_s.lineY(strings / 2) - g.bottom * space / 2.0;
        else if (glyph == Glyph::RestHalf) // sits on one
            y = m_s.lineY(strings / 2 + 1) - g.top * space / 2.0;
        m_b.glyphAt(Sign::Rest, glyph, x, y, space);
        for (int dot = 0; dot < value.dots && !whole_bar; ++dot)
            m_b.glyphAt(Sign::Dot,
                        Glyph::Dot,
                        x + g.width() * space / 2.0 + 0.8 + 1.2 * dot,
                        y - 0.4 * space,
                        space);
    }

    const SystemContext& m_s;
    Block& m_b;
};

} // namespace

void drawRhythm(const SystemContext& system, Block& block) {
    Rhythm rhythm(system, block);
    for (const SetBar& bar : system.bars) {
        const bool two = !bar.bar->lower.empty();
        rhythm.voice(bar, bar.bar->values, two, two);
        if (two)
            rhythm.voice(bar, bar.bar->lower, false, true);
    }
}

} // namespace wirenote
