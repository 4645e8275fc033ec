#include "engraving/head.h"

#include "piece/exactness.h"
#include "piece/timeline_map.h"
#include "score/marks.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <optional>

namespace wirenote {
namespace {

// Words of a line that is too long go to the next one.
std::vector<std::string> wrapped(const std::string& text, double size, double width) {
    std::vector<std::string> lines(1);
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t space = std::min(text.find(' ', at), text.size());
        const std::string word = text.substr(at, space - at);
        std::string& line = lines.back();
        const std::string longer = line.empty() ? word : line + " " + word;
        if (!line.empty() && textWidth(longer, false) * size > width)
            lines.push_back(word);
        else
            line = longer;
        at = space + 1;
    }
    return lines;
}

// Major keys by their fifths, from six flats to six sharps, and the minor keys of the same
// signatures.
constexpr std::array<const char*, 13> kMajors = {
    "G♭", "D♭", "A♭", "E♭", "B♭", "F", "C", "G", "D", "A", "E", "B", "F♯"};
constexpr std::array<const char*, 13> kMinors = {
    "E♭", "B♭", "F", "C", "G", "D", "A", "E", "B", "F♯", "C♯", "G♯", "D♯"};

std::string keyText(int fifths) {
    const auto at = static_cast<std::size_t>(std::clamp(fifths, -6, 6) + 6);
    return std::string(kMajors[at]) + " major or " + kMinors[at] + " minor";
}

// How many semitones above its usual tuning every string sounds, where they all agree.
std::optional<int> raisedBy(const Instrument& instrument) {
    const Instrument usual = standardInstrument(instrument.kind);
    if (usual.stringCount() != instrument.stringCount())
        return {};
    const int raised = instrument.strings[0].open_midi - usual.strings[0].open_midi;
    for (std::size_t s = 0; s < usual.strings.size(); ++s)
        if (instrument.strings[s].open_midi - usual.strings[s].open_midi != raised)
            return {};
    return raised;
}

// Which chords a hand takes for what sounds: "shapes of C sound as E♭".
std::string shapes(const Piece& piece) {
    const auto raised = raisedBy(piece.instrument);
    const int above = piece.instrument.capo + raised.value_or(0);
    if (!raised || above == 0)
        return {};
    // A semitone is seven fifths; within an octave of fifths, the signature with fewer signs.
    int shape = piece.key.fifths - 7 * above;
    while (shape > 6)
        shape -= 12;
    while (shape < -5)
        shape += 12;
    return "shapes of " + std::string(kMajors[static_cast<std::size_t>(shape + 6)]) + " sound as " +
           kMajors[static_cast<std::size_t>(std::clamp(piece.key.fifths, -6, 6) + 6)];
}

std::string facts(const Piece& piece, const Sheet& sheet) {
    std::string text =
        std::string(instrumentName(piece.instrument.kind)) + " · " + tuningText(piece.instrument);
    if (piece.instrument.capo > 0)
        text += " · capo " + std::to_string(piece.instrument.capo) + " (frets are counted from it)";
    if (const std::string said = shapes(piece); !said.empty())
        text += " · " + said;
    text += " · " + keyText(piece.key.fifths);
    if (sheet.score.tempo_bpm > 0.0)
        text += " · " + sheet.score.metre.text() + " · " +
                std::to_string(std::lround(sheet.score.tempo_bpm)) + " beats a minute";
    return text;
}

std::string sourceLine(const About& about) {
    return about.source + (about.source.empty() || about.date.empty() ? "" : " · ") + about.date;
}

class Head {
  public:
    Head(const Piece& piece, const Measures& m, double width, Block& block)
        : m_piece(piece), m_m(m), m_width(width), m_b(block) {}

    void line(Sign sign, const std::string& text, double size, bool strong) {
        if (text.empty())
            return;
        for (const std::string& part : wrapped(text, size, m_width)) {
            m_y += 1.25 * size;
            m_b.text(sign, part, m_width / 2.0, m_y, size, strong);
        }
    }
    void gap(double by) { m_y += by; }

    // Small pictures of what the hand holds: strings upright, the nut on top, the thickest string
    // left (right for a left-handed player).
    void grips(const std::vector<ChordSign>& chords) {
        const double cell = 1.9 * m_m.space / 1.75;
        const double width = cell * (m_piece.instrument.stringCount() - 1);
        const double step = width + 5.0 * cell;
        std::vector<const ChordSign*> drawn;
        for (const ChordSign& chord : chords)
            if (chord.grip && std::ranges::none_of(drawn, [&](const ChordSign* other) {
                    return other->name == chord.name;
                }))
                drawn.push_back(&chord);
        const auto a_line = std::max<std::size_t>(1, static_cast<std::size_t>(m_width / step));
        for (std::size_t from = 0; from < drawn.size(); from += a_line) {
            const std::size_t to = std::min(drawn.size(), from + a_line);
            double x = (m_width - static_cast<double>(to - from) * step) / 2.0 + 2.0 * cell;
            for (std::size_t k = from; k < to; ++k, x += step)
                grip(*drawn[k], x, m_y + 4.0 * cell, cell);
            m_y += 4.0 * cell + 5.5 * cell;
        }
    }

  private:
    void grip(const ChordSign& chord, double x, double y, double cell) {
        constexpr int kFrets = 5;
        const int strings = m_piece.instrument.stringCount();
        const double width = cell * (strings - 1);
        int lowest = kMaxFrets;
        int highest = 0;
        for (const int fret : chord.grip->frets)
            if (fret > 0) {
                lowest = std::min(lowest, fret);
                highest = std::max(highest, fret);
            }
        const int first = highest <= kFrets ? 1 : lowest;
        m_b.text(Sign::Grip, chord.name, x + width / 2.0, y - 1.3 * cell, 0.8 * m_m.chord, true);
        for (int f = 0; f <= kFrets; ++f) {
            const double at = y + f * cell;
            m_b.line(Sign::Grip, {x, at, x + width, at, f == 0 && first == 1 ? 0.6 : 0.15, false});
        }
        for (int s = 0; s < strings; ++s)
            m_b.line(Sign::Grip, {x + s * cell, y, x + s * cell, y + kFrets * cell, 0.15, false});
        if (first > 1)
            m_b.text(Sign::Grip,
                     std::to_string(first),
                     x - 0.6 * cell,
                     y + 0.5 * cell + 0.36 * 2.2,
                     2.2,
                     false,
                     Block::Align::Right);
        for (int s = 1; s <= strings; ++s) {
            const int column = m_piece.instrument.left_handed ? s - 1 : strings - s;
            const double at = x + column * cell;
            const int fret = chord.grip->fretOn(s);
            if (fret == Grip::kSilent)
                m_b.text(Sign::Grip, "×", at, y - 0.25 * cell, 2.2, false);
            else if (fret == 0)
                m_b.text(Sign::Grip, "○", at, y - 0.25 * cell, 1.8, false);
            else
                dot(at, y + (fret - first + 0.5) * cell, 0.36 * cell);
        }
    }
    void dot(double x, double y, double radius) {
        ShapeInk round;
        for (int k = 0; k < 16; ++k)
            round.points.push_back({x + radius * std::cos(k * 0.39269908169872414),
                                    y + radius * std::sin(k * 0.39269908169872414)});
        m_b.shape(Sign::Grip, std::move(round));
    }

    const Piece& m_piece;
    const Measures& m_m;
    double m_width;
    Block& m_b;
    double m_y = 0.0;
};

// What of the notes is there, for the key to the signs.
bool anyHas(const Piece& piece, Technique technique) {
    return std::ranges::any_of(piece.notes,
                               [technique](const Note& note) { return note.has(technique); });
}

bool anyStroke(const Piece& piece, Stroke stroke) {
    return std::ranges::any_of(piece.asPlayed().plans, [stroke](const NotePlan& plan) {
        return plan.stroke.value == stroke;
    });
}

std::string keyToSigns(const Piece& piece, const Sheet& sheet) {
    std::string text = "Lines are strings, the thickest at the bottom; numbers are frets, 0 open";
    const auto add = [&text](bool there, const char* words) {
        if (there)
            text += std::string("; ") + words;
    };
    const SheetStyle& style = piece.sheet;
    add(style.fingers || style.holds, "fingers 1 index to 4 little, T thumb");
    if (style.strokes) {
        add(anyStroke(piece, Stroke::Down) || anyStroke(piece, Stroke::Up),
            "open square: the pick goes down, V: up");
        add(anyStroke(piece, Stroke::P), "p thumb, i index, m middle, a ring");
    }
    if (style.positions) {
        add(!sheet.positions.empty(), "III: the index finger plays at fret 3");
        add(!sheet.barres.empty(),
            "B III: one finger across the strings at fret 3 up to the hook, "
            "½B over some of them");
    }
    if (style.techniques) {
        add(anyHas(piece, Technique::HammerOn), "h hammered on");
        add(anyHas(piece, Technique::PullOff), "p under a curve: pulled off");
        add(anyHas(piece, Technique::Slide), "a slanted line: slid, not struck");
        add(anyHas(piece, Technique::Bend) || anyHas(piece, Technique::PreBend),
            "arrows: bent by so many tones");
        add(anyHas(piece, Technique::PalmMute), "P.M. muted by the palm");
        add(!piece.notes.empty() &&
                std::ranges::any_of(piece.notes, [](const Note& n) { return !n.pitched(); }),
            "× damped");
        add(anyHas(piece, Technique::Harmonic), "<12> a harmonic over fret 12");
    }
    const auto marked = [&sheet](MarkKind kind) {
        return std::ranges::find(sheet.marks, kind, &MarkSign::kind) != sheet.marks.end();
    };
    add(std::ranges::any_of(sheet.bars, [](const PrintedBar& bar) { return bar.cells > 1; }),
        "×4 over a bracket: what is under it, four times in all");
    add(marked(MarkKind::Louder) || marked(MarkKind::Softer),
        "lines that open: louder, that close: softer");
    add(marked(MarkKind::Fermata), "an arc with a dot: held longer than it is written");
    add(style.basis,
        "places are known by ear (wave), by eye (ring), by reason (caret) or by a "
        "person's word (pin)");
    add(style.count, "counts in brackets are silent");
    add(style.doubts && sheet.doubts > 0, "dashed: in doubt");
    return text + ".";
}

// "May be left out: bar 3, beat 2 (from 96 on); bar 5, beat 1." Empty where there are none.
std::string neededNotes(const Piece& piece, Necessity kind, const std::string& what) {
    const TimelineMap map(piece.timeline);
    std::string all;
    for (const Note& note : piece.notes) {
        if (note.need.kind != kind)
            continue;
        constexpr double kPlayedEarly_s = 0.03;
        const auto at = map.barBeatAt(note.onset_s() + kPlayedEarly_s);
        std::array<char, 64> place{};
        std::snprintf(place.data(),
                      place.size(),
                      "bar %d, beat %g",
                      at.bar,
                      std::floor(2.0 * at.beat + 0.25) / 2.0);
        all += (all.empty() ? what + ": " : "; ") + place.data();
        std::string when = note.need.when;
        if (note.need.above_bpm > 0.0)
            when = "from " + std::to_string(std::lround(note.need.above_bpm)) +
                   " beats a minute on" + (when.empty() ? "" : ", " + when);
        if (!when.empty())
            all += " (" + when + ")";
    }
    return all.empty() ? all : all + ".";
}

} // namespace

void drawHead(
    const Piece& piece, const Sheet& sheet, const Measures& m, double width, Block& block) {
    Head head(piece, m, width, block);
    if (!piece.title_guessed) // nothing is printed that nobody said
        head.line(Sign::Head1, piece.title, m.title, true);
    head.gap(0.8);
    head.line(Sign::Head2, piece.about.subtitle, m.subtitle, false);
    head.line(Sign::Head2, namesLine(piece.about), m.facts, false);
    head.line(Sign::Head2, sourceLine(piece.about), m.facts, false);
    if (piece.sheet.exactness && !piece.notes.empty())
        head.line(Sign::Head2, exactnessLine(piece) + ".", m.facts, false);
    head.gap(0.6);
    head.line(Sign::Head2, facts(piece, sheet), m.facts, false);
    if (piece.sheet.grips)
        head.grips(sheet.chords);
}

std::vector<std::string>
footLines(const Piece& piece, const Sheet& sheet, const Measures& m, double width) {
    std::vector<std::string> lines;
    if (piece.sheet.key_to_signs && !piece.notes.empty())
        lines = wrapped(keyToSigns(piece, sheet), m.foot, width);
    for (const auto& [kind, what] :
         {std::pair{Necessity::MayGo, "May be left out"}, {Necessity::MustLand, "Must land"}})
        if (const std::string all = neededNotes(piece, kind, what); !all.empty())
            for (std::string& line : wrapped(all, m.foot, width))
                lines.push_back(std::move(line));
    if (sheet.doubts > 0 && !piece.sheet.doubts)
        lines.push_back(sheet.doubts == 1
                            ? "One decision is in doubt."
                            : std::to_string(sheet.doubts) + " decisions are in doubt.");
    return lines;
}

} // namespace wirenote
