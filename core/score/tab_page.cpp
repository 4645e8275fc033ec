#include "score/tab_page.h"

#include "piece/doubts.h"
#include "score/marks.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <set>

namespace wirenote {
namespace {

constexpr std::array<const char*, 13> kRoman = {
    "", "I", "II", "III", "IV", "V", "VI", "VII", "VIII", "IX", "X", "XI", "XII"};

int flagsOf(NoteType type) {
    switch (type) {
    case NoteType::Eighth:
        return 1;
    case NoteType::Sixteenth:
        return 2;
    case NoteType::ThirtySecond:
        return 3;
    default:
        return 0;
    }
}

class PageWriter {
  public:
    PageWriter(const Piece& piece, const PageFormat& format)
        : m_piece(piece), m_format(format), m_score(writeScore(piece)) {
        for (const Doubt& doubt : openDoubts(piece))
            m_doubtful.insert(doubt.note);
        m_staff_height = format.line_gap_mm * (piece.instrument.stringCount() - 1);
        m_system_height = 9.0 + m_staff_height + format.system_gap_mm;
    }

    std::vector<TabPage> run() {
        newPage();
        header();
        std::size_t bar = 0;
        while (bar < m_score.bars.size()) {
            const std::size_t end = barsOfSystem(bar);
            if (m_y + m_system_height > m_format.height_mm - m_format.margin_mm)
                newPage();
            system(bar, end);
            bar = end;
        }
        footers();
        return std::move(m_pages);
    }

  private:
    double left() const { return m_format.margin_mm + 8.0; }
    double right() const { return m_format.width_mm - m_format.margin_mm; }
    double lineY(int string) const { return m_y + 9.0 + (string - 1) * m_format.line_gap_mm; }

    void newPage() {
        m_pages.emplace_back();
        m_y = m_format.margin_mm;
    }
    void text(double x, double y, TextRole role, std::string what, bool doubtful = false) {
        m_pages.back().texts.push_back({x, y, role, std::move(what), doubtful});
    }
    void line(double x1, double y1, double x2, double y2, double width = 0.15) {
        m_pages.back().lines.push_back({x1, y1, x2, y2, width});
    }

    void header() {
        const double middle = m_format.width_mm / 2.0;
        text(middle, m_y + 4.0, TextRole::Title, m_piece.title);
        std::string facts = std::string(instrumentName(m_piece.instrument.kind)) + " · " +
                            tuningText(m_piece.instrument);
        if (m_piece.instrument.capo > 0)
            facts += " · capo " + std::to_string(m_piece.instrument.capo);
        if (m_score.tempo_bpm > 0.0)
            facts += " · " + m_score.metre.text() + " · " +
                     std::to_string(std::lround(m_score.tempo_bpm)) + " beats a minute";
        text(middle, m_y + 10.5, TextRole::Subtitle, facts);
        m_y += 18.0;
        if (const std::string names = namesLine(m_piece.about); !names.empty()) {
            text(middle, m_y - 3.0, TextRole::Subtitle, names);
            m_y += 4.5;
        }
    }

    void footers() {
        for (std::size_t p = 0; p < m_pages.size(); ++p)
            m_pages[p].texts.push_back({m_format.width_mm / 2.0,
                                        m_format.height_mm - 9.0,
                                        TextRole::Footer,
                                        m_piece.title + " · " + std::to_string(p + 1) + " / " +
                                            std::to_string(m_pages.size()),
                                        false});
    }

    double barWidth(const Bar& bar) const {
        return std::max(4.0, static_cast<double>(bar.values.size())) * m_format.note_space_mm + 4.0;
    }

    std::size_t barsOfSystem(std::size_t first) const {
        double used = barWidth(m_score.bars[first]);
        std::size_t end = first + 1;
        while (end < m_score.bars.size() && end - first < 4 &&
               used + barWidth(m_score.bars[end]) <= right() - left())
            used += barWidth(m_score.bars[end++]);
        return end;
    }

    void system(std::size_t first, std::size_t end) {
        const int strings = m_piece.instrument.stringCount();
        m_last_x.fill(1e9);
        m_last_words.clear();
        m_marked_x = -1.0;
        double wanted = 0.0;
        for (std::size_t b = first; b < end; ++b)
            wanted += barWidth(m_score.bars[b]);
        // The last system keeps its natural width unless it is nearly full.
        const double stretch = end == m_score.bars.size() && wanted < 0.7 * (right() - left())
                                   ? 1.0
                                   : (right() - left()) / wanted;
        const double system_right = left() + wanted * stretch;
        for (int s = 1; s <= strings; ++s) {
            line(left(), lineY(s), system_right, lineY(s));
            text(m_format.margin_mm + 4.0, lineY(s), TextRole::Tuning, openName(s));
        }
        line(left(), lineY(1), left(), lineY(strings), 0.25);
        double x = left();
        for (std::size_t b = first; b < end; ++b) {
            text(x + 1.0,
                 lineY(1) - 6.5,
                 TextRole::BarNumber,
                 std::to_string(m_score.bars[b].number));
            const double width = barWidth(m_score.bars[b]) * stretch;
            if (b == 0 || m_score.bars[b].metre != m_score.bars[b - 1].metre)
                metreSign(m_score.bars[b].metre, x + 3.0);
            values(m_score.bars[b], x + 3.0, width - 4.0);
            x += width;
            const bool last = b + 1 == m_score.bars.size();
            line(x, lineY(1), x, lineY(strings), last ? 0.7 : 0.25);
        }
        m_y += m_system_height;
    }

    // Upper over lower number, above the staff where the bar begins.
    void metreSign(const Metre& metre, double x) {
        text(x + 4.0, lineY(1) - 6.5, TextRole::BarNumber, metre.text());
    }

    std::string openName(int string) const {
        std::string name =
            pitchName(m_piece.instrument.string(string).open_midi, m_piece.key.spelling());
        name.pop_back(); // the octave
        return name;
    }

    void values(const Bar& bar, double x0, double width) {
        const double step =
            width / static_cast<double>(std::max<std::size_t>(1, bar.values.size()));
        for (std::size_t v = 0; v < bar.values.size(); ++v) {
            const double x = x0 + step * (static_cast<double>(v) + 0.5);
            const Value& value = bar.values[v];
            stem(value, x);
            for (std::size_t g = 0; g < value.graces.size(); ++g)
                grace(value.graces[g],
                      x - 1.7 - 1.4 * static_cast<double>(value.graces.size() - 1 - g));
            if (value.tied_from_before)
                continue;
            for (const std::size_t index : value.notes)
                note(index, x);
            strokeMark(value, x);
        }
    }

    // Small, before the note it leads to.
    void grace(std::size_t index, double x) {
        const NotePlan& plan = m_piece.asPlayed().plans[index];
        if (!plan.placed())
            return;
        text(x,
             lineY(plan.position.value.string),
             TextRole::Finger,
             fretMark(m_piece.notes[index], plan.position.value));
        m_last_x[static_cast<std::size_t>(plan.position.value.string)] = x;
    }

    void note(std::size_t index, double x) {
        const Note& note = m_piece.notes[index];
        const NotePlan& plan = m_piece.asPlayed().plans[index];
        const bool doubtful = m_doubtful.contains(note.id);
        if (!plan.placed()) {
            text(x,
                 lineY(1) - 3.0,
                 TextRole::Technique,
                 pitchName(note.pitch.value, m_piece.key.spelling()) + "?",
                 true);
            return;
        }
        const double y = lineY(plan.position.value.string);
        text(x, y, TextRole::FretNumber, fretMark(note, plan.position.value), doubtful);
        double& last_x = m_last_x[static_cast<std::size_t>(plan.position.value.string)];
        if (note.slurred() && last_x < x) { // not from the end of the line before
            m_pages.back().marks.push_back({MarkKind::Slur, last_x, y - 1.9, x});
            text((last_x + x) / 2.0, y - 3.6, TextRole::Technique, slurMark(note));
        }
        last_x = x;
        if (plan.hand_fret > 0 && plan.hand_fret != m_last_hand && plan.position.value.fret > 0 &&
            plan.hand_fret < static_cast<int>(kRoman.size())) {
            text(x,
                 lineY(1) - 4.0,
                 TextRole::Position,
                 kRoman[static_cast<std::size_t>(plan.hand_fret)]);
            m_last_hand = plan.hand_fret;
        }
        marksAbove(note, x);
    }

    // Once where it begins; what goes on is a dash. The notes of one chord say it once.
    void marksAbove(const Note& note, double x) {
        std::string words;
        for (const std::string& mark : techniqueMarks(note))
            words += (words.empty() ? "" : " ") + mark;
        if (words.empty() || x == m_marked_x) {
            m_last_words = x == m_marked_x ? m_last_words : words;
            return;
        }
        const bool goes_on = words == m_last_words && words.size() > 2;
        text(x,
             lineY(1) - 1.9 - (note.slurred() ? 1.7 : 0.0),
             TextRole::Technique,
             goes_on ? "–" : words);
        m_last_words = words;
        m_marked_x = x;
    }

    // One mark for all that sounds at once: the pick's, or the letters of the fingers.
    void strokeMark(const Value& value, double x) {
        const double y = lineY(m_piece.instrument.stringCount()) + 11.0;
        const auto is = [&](Stroke stroke) {
            return std::ranges::any_of(value.notes, [&](std::size_t i) {
                return m_piece.asPlayed().plans[i].stroke.value == stroke;
            });
        };
        const bool down = is(Stroke::Down);
        const std::string letters = pluckedLetters(m_piece.rows(), value.notes);
        const double aside = letters.empty() ? 0.0 : 1.6; // a pick and fingers at once
        if (down || is(Stroke::Up))
            m_pages.back().marks.push_back(
                {down ? MarkKind::DownStroke : MarkKind::UpStroke, x - aside, y, 0.0});
        if (!letters.empty())
            text(x + (down || is(Stroke::Up) ? aside : 0.0), y, TextRole::Finger, letters);
    }

    void stem(const Value& value, double x) {
        const double top = lineY(m_piece.instrument.stringCount()) + 2.0;
        const double bottom = top + 5.0;
        if (value.rest()) {
            line(x - 0.8,
                 top + 2.5,
                 x + 0.8,
                 top + 2.5,
                 0.5); // a rest: a short bar where the stem would be
            flags(value, x + 0.8, top + 4.2);
            return;
        }
        if (value.type != NoteType::Whole)
            line(x, value.type == NoteType::Half ? top + 2.5 : top, x, bottom, 0.2);
        flags(value, x, bottom);
        for (int dot = 0; dot < value.dots; ++dot)
            text(x + 1.2 + dot, bottom - 0.6, TextRole::Finger, "·");
        if (value.tuplet())
            text(x, bottom + 1.6, TextRole::Finger, std::to_string(value.actual));
    }
    void flags(const Value& value, double x, double bottom) {
        for (int f = 0; f < flagsOf(value.type); ++f)
            line(x, bottom - f * 1.1, x + 1.6, bottom - f * 1.1 - 0.9, 0.35);
    }

    const Piece& m_piece;
    PageFormat m_format;
    Score m_score;
    std::set<NoteId> m_doubtful;
    std::vector<TabPage> m_pages;
    double m_y = 0.0;
    double m_staff_height = 0.0;
    double m_system_height = 0.0;
    // What was written last in this system: the place on each string, and the words above.
    std::array<double, kMaxStrings + 1> m_last_x{};
    std::string m_last_words;
    double m_marked_x = -1.0;
    int m_last_hand = 0;
};

} // namespace

std::vector<TabPage> layOutTabPages(const Piece& piece, const PageFormat& format) {
    return PageWriter(piece, format).run();
}

} // namespace wirenote
