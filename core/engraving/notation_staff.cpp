#include "engraving/notation_staff.h"

#include "engraving/stems.h"
#include "engraving/tab_staff.h"

#include <array>
#include <cmath>
#include <map>

namespace wirenote {
namespace {

constexpr double kGrace = 0.65; // of the staff space
constexpr double kClefLeft_mm = 0.8;
constexpr double kOtherVoice = 1.9; // staff spaces: its heads with their accidentals

// Steps above the middle line at which the signs of a key stand, in their order (treble; the bass
// clef has them two lower).
constexpr std::array<int, 7> kSharpSteps = {4, 1, 5, 2, -1, 3, 0};
constexpr std::array<int, 7> kFlatSteps = {0, 3, -1, 2, -2, 1, -3};

class NotationStaff {
  public:
    NotationStaff(const SystemContext& system, Block& block)
        : m_s(system), m_b(block), m_space(system.m.space) {}

    void draw() {
        lines();
        clefAndKey();
        for (const SetBar& bar : m_s.bars) {
            if (bar.new_metre)
                metre(bar);
            for (const WrittenChord& chord : bar.chords)
                if (const Column* column = m_s.columnAt(bar.bar->start + chord.value->start))
                    drawChord(bar, chord, *column);
            stems(bar, Voice::Upper);
            stems(bar, Voice::Lower);
        }
        for (const auto& [from, to] : m_s.sheet.slurs)
            slur(from, to);
    }

  private:
    double y(double step) const { return (4.0 - step) * m_space / 2.0; } // middle line: step 0

    void lines() {
        const double width = engravingDefaults().staff_line * m_space;
        for (int line = 0; line < 5; ++line)
            m_b.line(Sign::StaffLine,
                     {0.0, line * m_space, m_s.width, line * m_space, width, false});
        drawBarLines(m_s, m_b, 0.0, 4.0 * m_space, {1.5 * m_space, 2.5 * m_space});
    }

    void clefAndKey() {
        const bool bass = m_s.piece.instrument.isBass();
        const Glyph clef = bass ? Glyph::FClef8vb : Glyph::GClef8vb;
        m_b.glyph(Sign::Clef, clef, kClefLeft_mm, bass ? y(2) : y(-2), m_space);
        double x = kClefLeft_mm + (metricsOf(clef).right + 0.6) * m_space;
        const int fifths = m_s.piece.key.fifths;
        for (int k = 0; k < std::abs(fifths); ++k) {
            const Glyph sign = fifths > 0 ? Glyph::Sharp : Glyph::Flat;
            const auto at = static_cast<std::size_t>(k);
            const int step = (fifths > 0 ? kSharpSteps[at] : kFlatSteps[at]) - (bass ? 2 : 0);
            m_b.glyph(Sign::KeySign, sign, x, y(step), m_space);
            x += (metricsOf(sign).width() + 0.12) * m_space;
        }
    }

    void metre(const SetBar& bar) {
        drawMetre(m_b, bar.bar->metre, bar.x + bar.before - 0.8, y(0), m_space);
    }

    void drawChord(const SetBar& bar, const WrittenChord& chord, const Column& column) {
        if (chord.heads.empty()) {
            rest(bar, chord, column.x);
            return;
        }
        const double x = column.x + offsetOf(chord) * m_space;
        const double half = headWidth(chord) * m_space / 2.0;
        for (const WrittenHead& head : chord.heads) {
            const double at = x + (head.aside ? (chord.stem_up ? 2.0 : -2.0) * half : 0.0);
            const NoteId id = m_s.piece.notes[head.note].id;
            m_b.glyphAt(Sign::Head, head.head, at, y(head.step), m_space, id);
            tie(chord, head, at, half);
            m_heads[head.note] = {at, y(head.step), half, chord.stem_up};
        }
        ledgers(chord, x, half);
        accidentals(chord, column.x - chord.heads_left * m_space);
        dots(chord, column.x + chord.heads_right * m_space);
        graces(chord, column.x - chord.heads_left * m_space);
    }

    void ledgers(const WrittenChord& chord, double x, double half) {
        const EngravingDefaults& d = engravingDefaults();
        const double more = half + d.ledger_extension * m_space * 0.8;
        const auto line = [&](int step) {
            m_b.line(Sign::Ledger,
                     {x - more, y(step), x + more, y(step), d.ledger * m_space, false});
        };
        for (int step = 6; step <= chord.heads.back().step; step += 2)
            line(step);
        for (int step = -6; step >= chord.heads.front().step; step -= 2)
            line(step);
    }

    void accidentals(const WrittenChord& chord, double leftmost) {
        for (const WrittenHead& head : chord.heads) {
            if (!head.accidental)
                continue;
            const GlyphMetrics& g = metricsOf(*head.accidental);
            const double right =
                leftmost - 0.2 * m_space -
                head.accidental_column * (metricsOf(Glyph::Sharp).width() + 0.2) * m_space;
            m_b.glyph(Sign::Accidental,
                      *head.accidental,
                      right - g.right * m_space,
                      y(head.step),
                      m_space,
                      m_s.piece.notes[head.note].id);
        }
    }

    void dots(const WrittenChord& chord, double rightmost) {
        const bool flagged = chord.stem_up && chord.value->beam == 0 &&
                             flagGlyph(chord.value->type, true).has_value();
        const double at = rightmost + 0.55 * m_space +
                          (flagged ? metricsOf(Glyph::Flag8Up).width() * m_space : 0.0);
        for (const int step : chord.dots)
            for (int dot = 0; dot < chord.value->dots; ++dot)
                m_b.glyphAt(Sign::Dot, Glyph::Dot, at + 0.7 * m_space * dot, y(step), m_space);
    }

    void graces(const WrittenChord& chord, double leftmost) {
        double x =
            leftmost - (1.2 * chord.accidental_columns + 0.9 + 1.5 * chord.graces_first) * m_space;
        for (auto head = chord.graces.rbegin(); head != chord.graces.rend(); ++head) {
            const double space = kGrace * m_space;
            const double half = metricsOf(head->head).width() * space / 2.0;
            const NoteId id = m_s.piece.notes[head->note].id;
            m_b.glyphAt(Sign::GraceHead, head->head, x, y(head->step), space, id);
            const double stem_x = x + half - 0.06;
            const double end = y(head->step) - 2.6 * space;
            m_b.line(
                Sign::Stem, {stem_x, y(head->step) - 0.2 * space, stem_x, end, 0.12, false}, id);
            for (int step = 6; step <= head->step; step += 2)
                m_b.line(Sign::Ledger, {x - half - 0.4, y(step), x + half + 0.4, y(step), 0.2});
            for (int step = -6; step >= head->step; step -= 2)
                m_b.line(Sign::Ledger, {x - half - 0.4, y(step), x + half + 0.4, y(step), 0.2});
            m_heads[head->note] = {x, y(head->step), half, true};
            x -= 1.5 * m_space;
        }
    }

    // Between voices, rests go out of the way of the other one's heads.
    void rest(const SetBar& bar, const WrittenChord& chord, double x) {
        const bool whole_bar = chord.value->length == bar.bar->length;
        const Glyph glyph = whole_bar ? Glyph::RestWhole : restGlyph(chord.value->type);
        int step = 0;
        if (!bar.bar->lower.empty()) {
            constexpr int kAside = 6; // steps from the nearest head to the middle of a rest
            const bool up = chord.voice == Voice::Upper;
            step = up ? 4 : -4;
            for (const WrittenChord& other : bar.chords) {
                const bool meets = other.voice != chord.voice && !other.heads.empty() &&
                                   other.value->start < chord.value->start + chord.value->length &&
                                   other.value->start + other.value->length > chord.value->start;
                if (meets)
                    step = up ? std::max(step, other.heads.back().step + kAside)
                              : std::min(step, other.heads.front().step - kAside);
            }
            step -= step % 2;
        } else if (whole_bar && bar.columns.size() <= 1) {
            x = bar.x + (bar.before + bar.width - bar.after) / 2.0;
        }
        // The whole rest hangs from a line.
        const double up_one = glyph == Glyph::RestWhole ? 2.0 : 0.0;
        const GlyphMetrics& g = metricsOf(glyph);
        m_b.glyph(
            Sign::Rest, glyph, x - (g.left + g.right) / 2.0 * m_space, y(step + up_one), m_space);
        for (int dot = 0; dot < chord.value->dots && !whole_bar; ++dot)
            m_b.glyphAt(Sign::Dot,
                        Glyph::Dot,
                        x + (g.width() / 2.0 + 0.45 + 0.7 * dot) * m_space,
                        y(step + 1),
                        m_space);
    }

    void stems(const SetBar& bar, Voice voice) {
        std::vector<Stemmed> up;
        std::vector<Stemmed> down;
        std::vector<TupletPlace> places;
        bool over = true;
        for (const WrittenChord& chord : bar.chords) {
            if (chord.voice != voice)
                continue;
            const Column* column = m_s.columnAt(bar.bar->start + chord.value->start);
            if (!column)
                continue;
            const double x = column->x + offsetOf(chord) * m_space;
            places.push_back({chord.value, x});
            if (chord.heads.empty())
                continue;
            over = chord.stem_up;
            (chord.stem_up ? up : down).push_back(stemOf(chord, x));
            keepClear(bar, chord, (chord.stem_up ? up : down).back());
        }
        drawStems(m_b, up, {true, m_space, 0.25, 3.1 * m_space});
        drawStems(m_b, down, {false, m_space, 0.25, 3.1 * m_space});
        drawTuplets(m_b, places, over, m_space);
    }

    // Beams and flags stay outside what the other voice has meanwhile.
    void keepClear(const SetBar& bar, const WrittenChord& chord, Stemmed& stem) const {
        for (const WrittenChord& other : bar.chords) {
            if (other.voice == chord.voice || other.heads.empty() ||
                other.value->start < chord.value->start ||
                other.value->start >= chord.value->start + chord.value->length)
                continue;
            const double edge = chord.stem_up ? y(other.heads.back().step) - kOtherVoice * m_space
                                              : y(other.heads.front().step) + kOtherVoice * m_space;
            stem.clear = !stem.clear     ? edge
                         : chord.stem_up ? std::min(*stem.clear, edge)
                                         : std::max(*stem.clear, edge);
        }
    }

    Stemmed stemOf(const WrittenChord& chord, double x) const {
        const double thick = engravingDefaults().stem * m_space;
        const double half = headWidth(chord) * m_space / 2.0 - thick / 2.0;
        const WrittenHead& near = chord.stem_up ? chord.heads.front() : chord.heads.back();
        const WrittenHead& far = chord.stem_up ? chord.heads.back() : chord.heads.front();
        const double attach = (chord.stem_up ? -0.168 : 0.168) * m_space;
        // An octave long, to the middle line where heads lie far out.
        const double flags =
            chord.value->beam > 0 ? 0.0
            : beamsOf(chord.value->type) == 0
                ? 0.0
                : (0.5 + 0.7 * std::max(0, beamsOf(chord.value->type) - 2)) * m_space;
        double end = y(far.step) + (chord.stem_up ? -1.0 : 1.0) * (3.5 * m_space + flags);
        end = chord.stem_up ? std::min(end, y(0)) : std::max(end, y(0));
        std::optional<double> clear;
        const auto keep = [&](double edge) {
            clear = !clear ? edge : chord.stem_up ? std::min(*clear, edge) : std::max(*clear, edge);
        };
        for (const WrittenHead& grace : chord.graces)
            keep(y(grace.step) + (chord.stem_up ? -3.2 : 1.6) * m_space);
        for (const WrittenHead& head : chord.heads)
            if (head.accidental)
                keep(y(head.step) + (chord.stem_up ? -1.9 : 1.6) * m_space);
        return {chord.value,
                x + (chord.stem_up ? half : -half),
                y(near.step) + attach,
                y(far.step) + attach,
                end,
                m_s.piece.notes[chord.heads.front().note].id,
                clear,
                y(0)};
    }

    struct At {
        double x = 0.0, y = 0.0, half = 0.0;
        bool stem_up = true;
    };

    void arc(Sign sign, double from, double to, double at, bool over, NoteId note) {
        const double length = to - from;
        if (length < 0.4)
            return;
        const double high = (over ? -1.0 : 1.0) * std::min(1.8, 0.5 + 0.16 * length);
        m_b.curve(sign,
                  {{from, at},
                   {from + 0.25 * length, at + high},
                   {to - 0.25 * length, at + high},
                   {to, at},
                   engravingDefaults().slur_end * m_space,
                   engravingDefaults().slur_middle * m_space},
                  note);
    }

    void tie(const WrittenChord& chord, const WrittenHead& head, double x, double half) {
        if (!chord.value->tied_from_before)
            return;
        const auto before = m_heads.find(head.note);
        const double from =
            before != m_heads.end() ? before->second.x + before->second.half + 0.2 : x - half - 4.0;
        const bool over = !chord.stem_up;
        arc(Sign::Tie,
            from,
            x - half - 0.2,
            y(head.step) + (over ? -0.5 : 0.5) * m_space,
            over,
            m_s.piece.notes[head.note].id);
    }

    void slur(std::size_t from, std::size_t to) {
        const auto a = m_heads.find(from);
        const auto b = m_heads.find(to);
        if (a == m_heads.end() || b == m_heads.end() || a->second.x >= b->second.x)
            return;
        const bool over = !b->second.stem_up;
        const double away = (over ? -0.75 : 0.75) * m_space;
        const double at =
            over ? std::min(a->second.y, b->second.y) : std::max(a->second.y, b->second.y);
        arc(Sign::Slur, a->second.x, b->second.x, at + away, over, m_s.piece.notes[to].id);
    }

    const SystemContext& m_s;
    Block& m_b;
    double m_space;
    std::map<std::size_t, At> m_heads; // the last one of each note
};

} // namespace

void drawNotationStaff(const SystemContext& system, Block& block) {
    NotationStaff(system, block).draw();
}

double clefRoom(const Piece& piece, const Measures& m) {
    if (piece.sheet.staves != SheetStaves::TabAndStaff)
        return 0.0;
    const Glyph clef = piece.instrument.isBass() ? Glyph::FClef8vb : Glyph::GClef8vb;
    const Glyph sign = piece.key.fifths > 0 ? Glyph::Sharp : Glyph::Flat;
    return kClefLeft_mm + (metricsOf(clef).right + 0.6) * m.space +
           std::abs(piece.key.fifths) * (metricsOf(sign).width() + 0.12) * m.space + 0.4 * m.space;
}

} // namespace wirenote
