#include "engraving/rows.h"

#include "engraving/marks_beside.h"

#include <cmath>

namespace wirenote {
namespace {

constexpr double kBarNumber_mm = 2.3; // em
constexpr double kAside_mm = 4.0;
constexpr double kHook_mm = 1.2; // at the ends of brackets

// A word that wants to stand at a place of its own on one line with others of its kind.
struct Word {
    Sign sign;
    std::string text;
    double left = 0.0;
    double size = 3.0;
    bool strong = false;
    double pad = 0.0; // of a frame round it
    double right() const { return left + textWidth(text, strong) * size + 2.0 * pad; }
};

// All on one line over what is there; a word that would run into the one before it goes one line
// higher, where a little aside is not enough.
void drawWords(const SystemContext& system, Block& block, std::vector<Word> words) {
    if (words.empty())
        return;
    for (std::size_t k = 1; k < words.size(); ++k) {
        const double free_from = words[k - 1].right() + system.m.apart;
        if (words[k].left < free_from && free_from - words[k].left < kAside_mm)
            words[k].left = free_from;
    }
    double baseline = 1e9;
    for (const Word& word : words)
        baseline = std::min(baseline,
                            block.over(word.left, word.right(), system.m.apart) - word.pad -
                                0.22 * word.size);
    std::vector<double> free_from; // of each line, from the lowest up
    for (const Word& word : words) {
        std::size_t line = 0;
        while (line < free_from.size() && word.left < free_from[line])
            ++line;
        if (line == free_from.size())
            free_from.push_back(0.0);
        free_from[line] = word.right() + system.m.apart;
        const double level = -(1.35 * word.size + 2.0 * word.pad) * static_cast<double>(line);
        const Box box = block.text(word.sign,
                                   word.text,
                                   word.left + word.pad,
                                   baseline + level,
                                   word.size,
                                   word.strong,
                                   Block::Align::Left);
        if (word.pad > 0.0) {
            const double l = word.left;
            const double r = word.right();
            const double t = box.top - word.pad;
            const double b = baseline + level + 0.22 * word.size + word.pad * 0.6;
            block.shape(word.sign, {{{l, t}, {r, t}, {r, b}, {l, b}, {l, t}}, 0.18});
        }
    }
}

double barStart(const SetBar& bar) {
    return bar.x + 0.4;
}

const SetBar* barAt(const SystemContext& system, Rational at) {
    for (const SetBar& bar : system.bars)
        if (at >= bar.bar->start && at < bar.bar->start + bar.bar->length)
            return &bar;
    return nullptr;
}

std::string barreText(const BarreSign& barre, int strings) {
    const bool part = barre.thick - barre.thin + 1 < strings - 1;
    std::string text = (part ? "½B " : "B ") + roman(barre.fret);
    if (barre.finger == Finger::Thumb)
        text += " by T";
    else if (barre.finger != Finger::Index)
        text += " by " + std::to_string(static_cast<int>(barre.finger) -
                                        static_cast<int>(Finger::Index) + 1);
    return text;
}

// A position, or a barre with where it ends.
struct HandWord {
    Word word;
    std::optional<double> until;
};
constexpr double kBeforeNote_mm = 1.2; // words begin a little before their note

// In order; a barre says the position itself.
std::vector<HandWord> handWords(const SystemContext& system) {
    std::vector<HandWord> items;
    const double size = system.m.small;
    for (const BarreSign& barre : system.sheet.barres) {
        const Column* from = system.columnAt(barre.from);
        if (!from)
            continue;
        double until = system.width - 0.6;
        if (const Column* to = system.columnAt(barre.to))
            until = to->x - to->left;
        else if (const SetBar* bar = barAt(system, barre.to))
            until = bar->x;
        items.push_back({{Sign::Barre,
                          barreText(barre, system.piece.instrument.stringCount()),
                          from->x - kBeforeNote_mm,
                          size,
                          true,
                          0.0},
                         until});
    }
    for (const PositionSign& position : system.sheet.positions) {
        const Column* column = system.columnAt(position.at);
        if (!column)
            continue;
        const double left = column->x - kBeforeNote_mm;
        if (std::ranges::none_of(items, [left](const HandWord& item) {
                return item.until && std::abs(item.word.left - left) < 0.01;
            }))
            items.push_back({{Sign::Position, roman(position.fret), left, size, true, 0.0}, {}});
    }
    std::ranges::stable_sort(items, {}, [](const HandWord& item) { return item.word.left; });
    return items;
}

// The dashed line of a barre, with a hook down.
void drawBarreLine(Block& block, double begin, double end, double y) {
    if (end - begin < 1.0)
        return;
    block.line(Sign::BarreLine, {begin, y, end, y, 0.15, true});
    block.line(Sign::BarreLine, {end, y, end, y + kHook_mm, 0.15, false});
}

// Positions and barres on one line.
void drawPositions(const SystemContext& system, Block& block) {
    const auto items = handWords(system);
    const double size = system.m.small;
    double baseline = 1e9;
    for (const HandWord& item : items)
        baseline = std::min(baseline,
                            block.over(item.word.left,
                                       std::max(item.word.right(), item.until.value_or(0.0)),
                                       system.m.apart) -
                                0.1 * size);
    double drawn_to = -1e9;
    for (std::size_t i = 0; i < items.size(); ++i) {
        const Word& word = items[i].word;
        if (word.left < drawn_to)
            continue; // no room for two at almost the same place: the first one holds
        drawn_to = word.right() + 0.6;
        block.text(
            word.sign, word.text, word.left, baseline, size, word.strong, Block::Align::Left);
        const double next = i + 1 < items.size() ? items[i + 1].word.left : 1e9;
        if (items[i].until)
            drawBarreLine(
                block, drawn_to, std::min(*items[i].until, next - 0.8), baseline - 0.36 * size);
    }
}

void drawChords(const SystemContext& system, Block& block) {
    std::vector<Word> words;
    for (const ChordSign& chord : system.sheet.chords)
        if (const Column* column = system.columnAt(chord.at))
            words.push_back({Sign::Chord, chord.name, column->x - 1.2, system.m.chord, true, 0.0});
    drawWords(system, block, words);
}

// A bracket over a bar that stands for itself several times.
void drawCells(const SystemContext& system, Block& block) {
    const double size = system.m.small;
    for (const SetBar& bar : system.bars) {
        if (bar.print.cells < 2)
            continue;
        const double l = bar.columns.front().x - bar.columns.front().left;
        const double r = bar.x + bar.width - 0.8;
        const double line = block.over(l, r, system.m.apart) - kHook_mm;
        const std::string times = "×" + std::to_string(bar.print.cells);
        block.text(Sign::Ending, times, (l + r) / 2.0, line - 0.5, size, true);
        block.line(Sign::EndingLine, {l, line, r, line, 0.2, false});
        for (const double end : {l, r})
            block.line(Sign::EndingLine, {end, line, end, line + kHook_mm, 0.2, false});
    }
}

void drawEndings(const SystemContext& system, Block& block) {
    double top = 1e9;
    const auto covered = [](const SetBar& bar) { return bar.print.ending > 0; };
    const double height = 1.5 * system.m.small;
    for (const SetBar& bar : system.bars)
        if (covered(bar))
            top = std::min(top, block.over(bar.x, bar.x + bar.width, system.m.apart) - height);
    for (const SetBar& bar : system.bars) {
        if (!covered(bar))
            continue;
        const double l = bar.x + 0.3;
        const double r = bar.x + bar.width - 0.3;
        block.line(Sign::EndingLine, {l, top, r, top, 0.2, false});
        if (bar.print.ending_begins) {
            block.line(Sign::EndingLine, {l, top, l, top + height, 0.2, false});
            block.text(Sign::Ending,
                       std::to_string(bar.print.ending) + ".",
                       l + 0.8,
                       top + 0.4 * system.m.small + textMetrics().capital * system.m.small,
                       system.m.small,
                       true,
                       Block::Align::Left);
        }
        if (bar.print.ending_ends && bar.print.ending == 1)
            block.line(Sign::EndingLine, {r, top, r, top + height, 0.2, false});
    }
    for (const SetBar& bar : system.bars)
        if (bar.print.repeat_ends && bar.print.times > 2) {
            const std::string times = "×" + std::to_string(bar.print.times);
            const double size = system.m.small;
            const double right = bar.x + bar.width;
            const double left = right - textWidth(times, true) * size;
            block.text(Sign::Ending,
                       times,
                       right,
                       block.over(left, right, system.m.apart),
                       size,
                       true,
                       Block::Align::Right);
        }
}

// A metronome's mark: a note, and what follows "=".
void drawTempo(const SystemContext& system, Block& block, double left, const std::string& text) {
    const Metre& metre = system.bars.front().bar->metre;
    const bool note = text.starts_with("=");
    const double size = system.m.section;
    const double space = 0.95 * system.m.space;
    const Glyph unit = metre.compound()  ? Glyph::MetQuarter
                       : metre.unit == 2 ? Glyph::MetHalf
                       : metre.unit == 8 ? Glyph::Met8
                                         : Glyph::MetQuarter;
    double x = left;
    const double note_room = (metricsOf(unit).width() + (metre.compound() ? 0.9 : 0.3)) * space;
    const double right = x + (note ? note_room : 0.0) + textWidth(text, false) * size;
    const double baseline = block.over(left, right, system.m.apart) - 0.6 * space - 0.1 * size;
    if (note) {
        block.glyph(Sign::Tempo, unit, x, baseline, space);
        if (metre.compound())
            block.glyph(Sign::Tempo,
                        Glyph::MetDot,
                        x + (metricsOf(unit).width() + 0.2) * space,
                        baseline - 0.25 * space,
                        space);
        x += note_room;
    }
    block.text(Sign::Tempo, text, x, baseline, size, false, Block::Align::Left);
}

void drawNames(const SystemContext& system, Block& block) {
    std::vector<Word> words;
    for (const WordSign& section : system.sheet.sections)
        if (const SetBar* bar = barAt(system, section.at))
            words.push_back(
                {Sign::Section, section.text, barStart(*bar), system.m.section, true, 0.9});
    drawWords(system, block, words);
    if (system.first && system.sheet.score.tempo_bpm > 0.0)
        drawTempo(
            system, block, 0.4, "= " + std::to_string(std::lround(system.sheet.score.tempo_bpm)));
    for (const WordSign& tempo : system.sheet.tempi)
        if (const SetBar* bar = barAt(system, tempo.at))
            drawTempo(system, block, barStart(*bar), tempo.text);
}

void drawBarNumbers(const SystemContext& system, Block& block) {
    if (system.bars.empty())
        return;
    const SetBar& bar = system.bars.front();
    if (system.first || bar.bar->number < 1)
        return; // everybody knows
    const std::string number = std::to_string(bar.bar->number);
    const double left = -0.3 - textWidth(number, false) * kBarNumber_mm;
    block.text(Sign::BarNumber,
               number,
               -0.3,
               std::min(-1.9, block.over(left, 0.0, 0.4)),
               kBarNumber_mm,
               false,
               Block::Align::Right);
}

} // namespace

void drawRowsOver(const SystemContext& system, Block& block) {
    drawBarNumbers(system, block);
    drawMarksOver(system, block);
    if (system.style().positions)
        drawPositions(system, block);
    if (system.style().chords)
        drawChords(system, block);
    drawCells(system, block);
    drawEndings(system, block);
    drawNames(system, block);
}

} // namespace wirenote
