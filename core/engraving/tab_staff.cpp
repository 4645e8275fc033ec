#include "engraving/tab_staff.h"

#include "engraving/rhythm.h"
#include "score/marks.h"

#include <array>
#include <cmath>
#include <map>

namespace wirenote {

void drawBarLines(const SystemContext& system,
                  Block& block,
                  double top,
                  double bottom,
                  std::pair<double, double> dots) {
    const EngravingDefaults& d = engravingDefaults();
    const double space = system.m.space;
    const double thin = d.thin_bar * space;
    const double thick = d.thick_bar * space;
    const auto bar_line = [&](double x, double width) {
        block.line(Sign::BarLine, {x, top, x, bottom, width, false});
    };
    const auto repeat_dots = [&](double x) {
        for (const double y : {dots.first, dots.second})
            block.glyphAt(Sign::RepeatDots, Glyph::Dot, x, y, space);
    };
    bar_line(0.0, thin);
    for (std::size_t b = 0; b < system.bars.size(); ++b) {
        const SetBar& bar = system.bars[b];
        const bool end = system.last && b + 1 == system.bars.size();
        const double right = bar.x + bar.width;
        if (bar.print.repeat_begins) {
            bar_line(bar.x + thick / 2.0, thick);
            bar_line(bar.x + thick + d.bar_gap * space, thin);
            repeat_dots(bar.x + thick + 0.95 * space);
        }
        if (bar.print.repeat_ends || end) {
            bar_line(right - thick / 2.0, thick);
            bar_line(right - thick - d.bar_gap * space, thin);
            if (bar.print.repeat_ends)
                repeat_dots(right - thick - 0.95 * space);
        } else if (b + 1 == system.bars.size() || !system.bars[b + 1].print.repeat_begins) {
            bar_line(right, thin);
        }
    }
}

namespace {

std::vector<Glyph> digitsOf(int number) {
    std::vector<Glyph> digits;
    for (const char c : std::to_string(number))
        digits.push_back(digitOf(Glyph::Time0, c - '0'));
    return digits;
}

double widthOf(const std::vector<Glyph>& digits, double space) {
    double width = 0.0;
    for (const Glyph digit : digits)
        width += metricsOf(digit).advance * space;
    return width;
}

} // namespace

double metreWidth(const Metre& metre, double space) {
    return std::max(widthOf(digitsOf(metre.beats), space), widthOf(digitsOf(metre.unit), space));
}

double tabMetreSpace(const Piece& piece, const Measures& m) {
    return std::min(0.95, (piece.instrument.stringCount() - 1) / 4.4) * m.line_gap;
}

void drawMetre(Block& block, const Metre& metre, double right, double middle, double space) {
    const double x = right - metreWidth(metre, space) / 2.0;
    // Each number is two spaces high and a hair more.
    for (const auto& [number, y] : {std::pair{metre.beats, middle - 1.03 * space},
                                    std::pair{metre.unit, middle + 1.03 * space}}) {
        const auto digits = digitsOf(number);
        double at = x - widthOf(digits, space) / 2.0;
        for (const Glyph digit : digits) {
            block.glyph(Sign::TimeSign, digit, at, y, space);
            at += metricsOf(digit).advance * space;
        }
    }
}

namespace {

constexpr double kSlurHigh_mm = 1.5;

class TabStaff {
  public:
    TabStaff(const SystemContext& system, Block& block)
        : m_s(system), m_b(block), m_places(system.piece.notes.size(), nullptr) {}

    void draw() {
        lines();
        for (const SetBar& bar : m_s.bars) {
            if (bar.new_metre)
                metre(bar);
            if (bar.print.as_bar > 0) {
                asBar(bar);
                continue;
            }
            for (const auto* values : {&bar.bar->values, &bar.bar->lower})
                for (const Value& value : *values)
                    if (const Column* column = m_s.columnAt(bar.bar->start + value.start))
                        drawValue(value, *column);
        }
        for (const auto& [from, to] : m_s.sheet.slurs)
            slur(from, to);
    }

  private:
    double digit() const { return textMetrics().capital * m_s.m.number; }

    void lines() {
        const double width = engravingDefaults().staff_line * m_s.m.space * 0.8;
        const int strings = m_s.piece.instrument.stringCount();
        for (int s = 1; s <= strings; ++s) {
            m_b.line(Sign::StaffLine, {0.0, m_s.lineY(s), m_s.width, m_s.lineY(s), width, false});
            std::string name =
                pitchName(m_s.piece.instrument.string(s).open_midi, m_s.piece.key.spelling());
            name.pop_back(); // the octave
            m_b.text(Sign::Tuning,
                     name,
                     -1.2,
                     m_s.lineY(s) + 0.36 * m_s.m.small,
                     m_s.m.small,
                     false,
                     Block::Align::Right);
        }
        const double middle = m_s.tabHeight() / 2.0;
        const double away =
            m_s.piece.instrument.stringCount() % 2 == 0 ? m_s.m.line_gap : m_s.m.line_gap / 2.0;
        drawBarLines(m_s, m_b, 0.0, m_s.tabHeight(), {middle - away, middle + away});
    }

    // In the middle of the staff, lines broken for it.
    void asBar(const SetBar& bar) {
        const double x = bar.columns.front().x;
        const double size = m_s.m.small;
        const double middle = m_s.tabHeight() / 2.0 + 0.36 * size;
        const double apart = bar.print.except.empty() ? 0.0 : 0.65 * size;
        m_b.text(
            Sign::AsBar, asBarText(bar.print), x, middle - apart, size, true, Block::Align::Left);
        m_b.onPaper();
        if (bar.print.except.empty())
            return;
        m_b.text(Sign::AsBar, bar.print.except, x, middle + apart, size, false, Block::Align::Left);
        m_b.onPaper();
    }

    void metre(const SetBar& bar) {
        drawMetre(m_b,
                  bar.bar->metre,
                  bar.x + bar.before - 0.8,
                  m_s.tabHeight() / 2.0,
                  tabMetreSpace(m_s.piece, m_s.m));
    }

    void drawValue(const Value& value, const Column& column) {
        for (const std::size_t i : value.notes)
            drawNote(i, value, column);
        if (!value.tied_from_before) {
            graces(value, column);
            roll(value, column);
        }
    }

    void drawNote(std::size_t i, const Value& value, const Column& column) {
        const Note& note = m_s.piece.notes[i];
        const NotePlan& plan = m_s.piece.asPlayed().plans[i];
        if (!plan.placed()) {
            if (!value.tied_from_before)
                m_unplaced.push_back({column.x, i});
            return;
        }
        const Position place = plan.position.value;
        const double y = m_s.lineY(place.string);
        const double size = value.tied_from_before ? m_s.m.grace : m_s.m.number;
        const Box box = m_b.text(Sign::Number,
                                 numberText(note, place, value.tied_from_before),
                                 column.x,
                                 y + textMetrics().capital * size / 2.0,
                                 size,
                                 true,
                                 Block::Align::Centre,
                                 note.id);
        m_b.onPaper();
        if (value.tied_from_before) {
            const double from = m_places[i] ? m_places[i]->x + 1.2 : -0.2;
            arc(Sign::Tie, from, column.x - box.width() / 2.0, y - digit() / 2.0 - 0.15, note.id);
        } else if (m_s.style().doubts && m_s.sheet.doubtful_places.contains(note.id)) {
            constexpr double kPad = 0.3;
            m_b.doubt({box.left - kPad,
                       y - 0.6 * digit() - 0.1,
                       box.right + kPad,
                       y + 0.6 * digit() + 0.1},
                      note.id);
        }
        m_places[i] = &column;
    }

    void graces(const Value& value, const Column& column) {
        double left = column.x - firstNumberHalf(value) - 0.5;
        for (auto i = value.graces.rbegin(); i != value.graces.rend(); ++i) {
            const Note& note = m_s.piece.notes[*i];
            const NotePlan& plan = m_s.piece.asPlayed().plans[*i];
            if (!plan.placed())
                continue;
            const std::string text = numberText(note, plan.position.value, false);
            const double width = textWidth(text, true) * m_s.m.grace;
            const double y = m_s.lineY(plan.position.value.string);
            m_b.text(Sign::GraceNumber,
                     text,
                     left - width / 2.0,
                     y + textMetrics().capital * m_s.m.grace / 2.0,
                     m_s.m.grace,
                     true,
                     Block::Align::Centre,
                     note.id);
            m_b.onPaper();
            m_grace_x[*i] = left - width / 2.0;
            left -= width + 0.8;
        }
    }

    double firstNumberHalf(const Value& value) const {
        double half = 0.0;
        for (const std::size_t i : value.notes)
            if (const NotePlan& plan = m_s.piece.asPlayed().plans[i]; plan.placed())
                half = std::max(
                    half,
                    textWidth(numberText(m_s.piece.notes[i], plan.position.value, false), true) *
                        m_s.m.number / 2.0);
        return half;
    }

    // A wavy line before a chord that is struck string after string.
    void roll(const Value& value, const Column& column) {
        int thin = kMaxStrings;
        int thick = 0;
        for (const std::size_t i : value.notes)
            if (const NotePlan& plan = m_s.piece.asPlayed().plans[i];
                plan.placed() && m_s.piece.notes[i].has(Technique::Roll)) {
                thin = std::min(thin, plan.position.value.string);
                thick = std::max(thick, plan.position.value.string);
            }
        if (thick <= thin)
            return;
        const double x = column.x - firstNumberHalf(value) - 1.0;
        ShapeInk wave{{}, 0.25};
        const double top = m_s.lineY(thin) - 0.8;
        const double bottom = m_s.lineY(thick) + 0.8;
        const int waves = std::max(4, static_cast<int>(std::lround((bottom - top) / 0.75)));
        for (int k = 0; k <= waves; ++k)
            wave.points.push_back(
                {x + (k % 2 == 0 ? -0.35 : 0.35), top + (bottom - top) * k / waves});
        m_b.shape(Sign::Roll, std::move(wave), m_s.piece.notes[value.notes.front()].id);
    }

    void arc(Sign sign, double from, double to, double y, NoteId note) {
        const double length = to - from;
        if (length < 0.4)
            return;
        const double high = std::min(kSlurHigh_mm, 0.35 + 0.22 * length);
        m_b.curve(sign,
                  {{from, y},
                   {from + 0.25 * length, y - high},
                   {to - 0.25 * length, y - high},
                   {to, y},
                   engravingDefaults().slur_end * m_s.m.space,
                   engravingDefaults().slur_middle * m_s.m.space},
                  note);
    }

    std::optional<double> xOf(std::size_t i) const {
        if (const auto grace = m_grace_x.find(i); grace != m_grace_x.end())
            return grace->second;
        if (m_places[i])
            return m_places[i]->x;
        return {};
    }

    void slur(std::size_t from, std::size_t to) {
        const auto a = xOf(from);
        const auto b = xOf(to);
        const Note& note = m_s.piece.notes[to];
        const NotePlan& plan = m_s.piece.asPlayed().plans[to];
        if (!b || !plan.placed())
            return; // it arrives in another system
        const NotePlan& before = m_s.piece.asPlayed().plans[from];
        const double y = m_s.lineY(plan.position.value.string);
        const double start = a ? *a : std::max(0.2, *b - 8.0);
        if (start > *b)
            return;
        arc(Sign::Slur, start, *b, y - digit() / 2.0 - 0.2, note.id);
        if (note.has(Technique::Slide)) {
            const double half = 1.3;
            const double slope = before.position.value.fret < plan.position.value.fret ? -1 : 1;
            if (*b - start > 2.0 * half + 0.6)
                m_b.line(Sign::SlideLine,
                         {start + half, y - 0.55 * slope, *b - half, y + 0.55 * slope, 0.22, false},
                         note.id);
            return;
        }
        m_slurred.push_back({(start + *b) / 2.0, to});
    }

  public:
    // Words about slurs and notes without a place: over everything.
    void words() {
        if (m_s.style().techniques)
            for (const auto& [x, i] : m_slurred)
                over(Sign::Technique, slurMark(m_s.piece.notes[i]), x, m_s.piece.notes[i].id);
        for (const auto& [x, i] : m_unplaced)
            over(Sign::Technique,
                 pitchName(m_s.piece.notes[i].midi(), m_s.piece.key.spelling()) + "?",
                 x,
                 m_s.piece.notes[i].id);
    }

  private:
    void over(Sign sign, const std::string& text, double x, NoteId note) {
        const double half = textWidth(text, false) * m_s.m.small / 2.0;
        const double baseline =
            std::min(-kSlurHigh_mm - 1.3, m_b.over(x - half, x + half, m_s.m.apart)) -
            0.2 * m_s.m.small;
        m_b.text(sign, text, x, baseline, m_s.m.small, false, Block::Align::Centre, note);
    }

    struct At {
        double x;
        std::size_t note;
    };
    const SystemContext& m_s;
    Block& m_b;
    std::vector<const Column*> m_places; // of each note that begins in this system
    std::map<std::size_t, double> m_grace_x;
    std::vector<At> m_slurred;
    std::vector<At> m_unplaced;
};

} // namespace

void drawTabStaff(const SystemContext& system, Block& block, bool rhythm) {
    TabStaff staff(system, block);
    staff.draw();
    if (rhythm)
        drawRhythm(system, block);
    staff.words();
}

} // namespace wirenote
