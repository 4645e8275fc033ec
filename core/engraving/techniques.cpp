#include "engraving/tab_staff.h"
#include "score/marks.h"

#include <cmath>
#include <set>

namespace wirenote {
namespace {

constexpr double kArrow_mm = 0.9; // length of an arrow's head
constexpr double kBendWide_mm = 2.4;
constexpr double kBendAside_mm = 2.6;

class Techniques {
  public:
    Techniques(const SystemContext& system, Block& block) : m_s(system), m_b(block) {}

    void draw() {
        for (const auto& struck : m_s.struck()) {
            bends(struck);
            signs(struck);
        }
        for (const SpanSign& span : m_s.sheet.spans)
            spanned(span);
    }

  private:
    double numberHalf(std::size_t i) const {
        return textWidth(numberText(m_s.piece.notes[i],
                                    m_s.piece.asPlayed().plans[i].position.value,
                                    false),
                         true) *
               m_s.m.number / 2.0;
    }

    void arrowHead(double x, double y, bool up, NoteId note) {
        const double tail = up ? y + kArrow_mm : y - kArrow_mm;
        m_b.shape(Sign::BendCurve, {{{x, y}, {x - 0.45, tail}, {x + 0.45, tail}}, 0.0}, note);
    }

    void bends(const SystemContext::Struck& struck) {
        double aside = 0.0; // several of one chord stand beside one another
        for (const std::size_t i : struck.notes) {
            const Note& note = m_s.piece.notes[i];
            const NotePlan& plan = m_s.piece.asPlayed().plans[i];
            const bool before = note.has(Technique::PreBend);
            if (!plan.placed() || (!before && !note.has(Technique::Bend)))
                continue;
            const double amount = before ? note.midi() - note.frettedMidi() : note.bendSemitones();
            const double y = m_s.lineY(plan.position.value.string);
            const double x = struck.column->x + numberHalf(i) + 0.5;
            const double tip = (before ? x + 0.6 : x + kBendWide_mm) + aside;
            aside += kBendAside_mm;
            const std::string text = amount > 0.0 ? tonesText(amount) : "";
            const double half = std::max(0.6, textWidth(text, true) * m_s.m.small / 2.0);
            const double top = std::min(-2.4, m_b.over(tip - half, tip + half, m_s.m.apart) - 0.9);
            m_b.text(Sign::BendAmount,
                     text,
                     tip,
                     top - 0.4,
                     m_s.m.small,
                     true,
                     Block::Align::Centre,
                     note.id);
            bendUp(before ? tip : x, y, tip, top, note.id);
            if (note.has(Technique::Release))
                release(tip, top, note.id);
            m_b.reserve({tip - 0.6, top - 0.2, tip + 0.6, 0.0});
        }
    }

    void bendUp(double x, double y, double tip, double top, NoteId note) {
        m_b.curve(Sign::BendCurve,
                  {{x, y},
                   {tip, y},
                   {tip, y},
                   {tip, top + kArrow_mm},
                   engravingDefaults().arrow * m_s.m.space,
                   0.0},
                  note);
        arrowHead(tip, top, true, note);
    }

    void release(double tip, double top, NoteId note) {
        const double end = tip + 1.9;
        m_b.curve(Sign::BendCurve,
                  {{tip, top + 0.2},
                   {end, top + 0.2},
                   {end, top + 0.2},
                   {end, -kArrow_mm - 0.3},
                   engravingDefaults().arrow * m_s.m.space,
                   0.0},
                  note);
        arrowHead(end, -0.3, false, note);
        m_b.reserve({tip, top, end + 0.6, 0.0});
    }

    void glyphOver(Glyph glyph, double x, double space, NoteId note) {
        const double half = metricsOf(glyph).width() * space / 2.0;
        const double bottom = std::min(-1.9, m_b.over(x - half, x + half, m_s.m.apart * 0.8));
        m_b.glyphAt(Sign::Technique,
                    glyph,
                    x,
                    bottom - metricsOf(glyph).height() * space / 2.0,
                    space,
                    note);
    }

    void wordOver(const std::string& word, double x, NoteId note) {
        const double half = textWidth(word, false) * m_s.m.small / 2.0;
        const double bottom = std::min(-1.9, m_b.over(x - half, x + half, m_s.m.apart));
        m_b.text(Sign::Technique,
                 word,
                 x,
                 bottom - 0.2 * m_s.m.small,
                 m_s.m.small,
                 false,
                 Block::Align::Centre,
                 note);
    }

    void vibrato(const SystemContext::Struck& struck, NoteId note) {
        const double space = m_s.m.space;
        const GlyphMetrics& wave = metricsOf(Glyph::Vibrato);
        const double from = struck.column->x - 0.8;
        const double step = wave.advance * space;
        const double room = nextX(struck.column) - from - 1.5;
        const int waves = std::clamp(static_cast<int>(room / step), 2, 8);
        const double to = from + waves * step;
        const double bottom = std::min(-1.9, m_b.over(from, to, m_s.m.apart));
        for (int k = 0; k < waves; ++k)
            m_b.glyph(Sign::Vibrato, Glyph::Vibrato, from + k * step, bottom, space, note);
    }

    // Where the next column stands, or the end of the bar.
    double nextX(const Column* column) const {
        for (const SetBar& bar : m_s.bars)
            for (std::size_t c = 0; c < bar.columns.size(); ++c)
                if (&bar.columns[c] == column)
                    return c + 1 < bar.columns.size() ? bar.columns[c + 1].x : bar.x + bar.width;
        return m_s.width;
    }

    // Each sign once for all that is struck together.
    void signs(const SystemContext::Struck& struck) {
        std::set<Technique> there;
        NoteId id = 0;
        for (const std::size_t i : struck.notes) {
            const Note& note = m_s.piece.notes[i];
            there.insert(note.techniques.begin(), note.techniques.end());
            if (id == 0 && !note.techniques.empty())
                id = note.id;
        }
        const double x = struck.column->x;
        const double small = 0.8 * m_s.m.space;
        if (there.contains(Technique::Staccato))
            glyphOver(Glyph::Staccato, x, m_s.m.space, id);
        if (there.contains(Technique::Accent))
            glyphOver(Glyph::Accent, x, small, id);
        if (there.contains(Technique::Vibrato))
            vibrato(struck, id);
        if (there.contains(Technique::Trill))
            glyphOver(Glyph::Trill, x, small, id);
        if (there.contains(Technique::Tremolo))
            glyphOver(Glyph::Tremolo3, x, small, id);
        if (there.contains(Technique::Tap))
            wordOver("T", x, id);
        if (there.contains(Technique::Rake))
            wordOver("rake", x, id);
        if (there.contains(Technique::Harmonic))
            wordOver("harm.", x, id);
    }

    void spanned(const SpanSign& span) {
        if (m_s.bars.empty())
            return;
        const Rational start = m_s.bars.front().bar->start;
        const Rational end = m_s.bars.back().bar->start + m_s.bars.back().bar->length;
        if (span.to < start || span.from >= end)
            return;
        const Column* from = m_s.columnAt(std::max(span.from, start));
        const Column* to = span.to < end ? m_s.columnUpTo(span.to) : nullptr;
        if (!from)
            return;
        const std::string word = span.technique == Technique::PalmMute ? "P.M." : "let ring";
        const double size = m_s.m.small;
        const double left = from->x - 1.2;
        const double right_of_word = left + textWidth(word, false) * size;
        const double right = to ? std::max(right_of_word, to->x + 1.4) : m_s.width - 0.6;
        const double baseline =
            std::min(-1.9, m_b.over(left, std::max(right, right_of_word), m_s.m.apart)) -
            0.24 * size;
        m_b.text(Sign::Technique, word, left, baseline, size, false, Block::Align::Left, span.note);
        const double line = baseline - 0.36 * size;
        if (right - right_of_word < 1.6)
            return;
        m_b.line(
            Sign::TechniqueLine, {right_of_word + 0.6, line, right, line, 0.15, true}, span.note);
        if (to)
            m_b.line(Sign::TechniqueLine, {right, line, right, line + 1.1, 0.15, false}, span.note);
    }

    const SystemContext& m_s;
    Block& m_b;
};

} // namespace

void drawTechniques(const SystemContext& system, Block& block) {
    Techniques(system, block).draw();
}

} // namespace wirenote
