#include "formats/ascii_tab.h"

#include "formats/words.h"
#include "piece/exactness.h"
#include "score/bars.h"
#include "score/marks.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

std::string cellFor(const Note& note, const NotePlan& plan) {
    std::string cell = note.has(Technique::Slide) ? "/" : slurMark(note);
    cell += fretMark(note, plan.position.value);
    if (note.has(Technique::Bend))
        cell += "b";
    if (note.has(Technique::Release))
        cell += "r";
    if (note.has(Technique::Vibrato))
        cell += "~";
    return cell;
}

std::string rhythmOf(const Value& value) {
    static constexpr const char* kLetters = "whqest";
    std::string text = value.tied_from_before ? "~" : value.rest() ? "r" : "";
    text += kLetters[static_cast<int>(value.type)];
    text.append(static_cast<std::size_t>(value.dots), '.');
    if (value.tuplet())
        text += std::to_string(value.actual);
    return text;
}

// Indices of what is struck, the thickest string first.
std::vector<std::size_t> thickFirst(const Piece& piece, const Value& value) {
    std::vector<std::size_t> notes;
    for (const std::size_t i : value.notes)
        if (piece.asPlayed().plans[i].placed())
            notes.push_back(i);
    std::ranges::stable_sort(notes, std::greater<>(), [&](std::size_t i) {
        return piece.asPlayed().plans[i].position.value.string;
    });
    return notes;
}

// One letter for the pick, or the letters of the fingers, one a string; "." where none is known.
std::string strokesOf(const Piece& piece, const Value& value) {
    std::string text;
    bool known = false;
    bool pick = true;
    for (const std::size_t i : thickFirst(piece, value)) {
        const Stroke stroke = piece.asPlayed().plans[i].stroke.value;
        const bool down = stroke == Stroke::Down;
        const std::string word(down                   ? "D"
                               : stroke == Stroke::Up ? "U"
                               : stroke >= Stroke::P && stroke <= Stroke::C
                                   ? wordFor(stroke)
                                   : std::string_view("."));
        pick = pick && (down || stroke == Stroke::Up);
        known = known || word != ".";
        text += word;
    }
    return !known ? "" : pick ? text.substr(0, 1) : text;
}

std::string fingersOf(const Piece& piece, const Value& value) {
    std::string text;
    bool known = false;
    for (const std::size_t i : thickFirst(piece, value)) {
        const NotePlan& plan = piece.asPlayed().plans[i];
        const std::string word(plan.position.value.fret == 0        ? std::string_view("0")
                               : plan.finger.value >= Finger::Index ? wordFor(plan.finger.value)
                                                                    : std::string_view("."));
        known = known || (word != "." && word != "0");
        text += word;
    }
    return known ? text : "";
}

// Strings first, then rhythm, strokes, fingers: rows of equal length, without bar lines.
struct BarRows {
    std::vector<std::string> strings;
    std::string rhythm, strokes, fingers;
};

BarRows barRows(const Piece& piece, const Bar& bar) {
    BarRows rows;
    rows.strings.assign(static_cast<std::size_t>(piece.instrument.stringCount()), "-");
    rows.rhythm = rows.strokes = rows.fingers = " ";
    for (const Value& value : bar.values) {
        std::vector<std::string> cells(rows.strings.size());
        if (!value.tied_from_before)
            for (const std::size_t index : value.notes)
                if (const NotePlan& plan = piece.asPlayed().plans[index]; plan.placed())
                    cells[static_cast<std::size_t>(plan.position.value.string - 1)] =
                        cellFor(piece.notes[index], plan);
        for (const std::size_t grace : value.graces) // before what it leads to
            if (const NotePlan& plan = piece.asPlayed().plans[grace]; plan.placed()) {
                std::string& cell = cells[static_cast<std::size_t>(plan.position.value.string - 1)];
                cell = cellFor(piece.notes[grace], plan) + cell;
            }
        const std::string rhythm = rhythmOf(value);
        const std::string strokes = value.tied_from_before ? "" : strokesOf(piece, value);
        const std::string fingers = value.tied_from_before ? "" : fingersOf(piece, value);
        std::size_t width = std::max({rhythm.size(), strokes.size(), fingers.size()});
        for (const std::string& cell : cells)
            width = std::max(width, cell.size());
        // Longer values get more room: a column for each sixteenth, at most eight.
        const auto room = static_cast<std::size_t>(
            std::clamp<std::int64_t>((value.length * Rational(4)).floor(), 1, 8));
        const auto fill = [&](std::string& row, const std::string& text, char with) {
            row += text;
            row.append(width - text.size() + room, with);
        };
        for (std::size_t r = 0; r < rows.strings.size(); ++r)
            fill(rows.strings[r], cells[r], '-');
        fill(rows.rhythm, rhythm, ' ');
        fill(rows.strokes, strokes, ' ');
        fill(rows.fingers, fingers, ' ');
    }
    return rows;
}

std::string stringLabel(const Piece& piece, int string) {
    const SpelledPitch pitch =
        spell(piece.instrument.string(string).open_midi, piece.key.spelling());
    std::string label(1, string == 1 ? static_cast<char>(pitch.step - 'A' + 'a') : pitch.step);
    label += pitch.alter > 0 ? "#" : pitch.alter < 0 ? "b" : " ";
    return label;
}

std::string head(const Piece& piece, const Score& score) {
    std::string out = piece.title + "\n";
    if (const std::string names = namesLine(piece.about); !names.empty())
        out += names + "\n";
    out += std::string(instrumentName(piece.instrument.kind)) + ", " + tuningText(piece.instrument);
    if (piece.instrument.capo > 0)
        out += ", capo " + std::to_string(piece.instrument.capo);
    if (score.tempo_bpm > 0.0)
        out += ", " + score.metre.text() + ", " + std::to_string(std::lround(score.tempo_bpm)) +
               " beats a minute";
    return out + "\n" + exactnessLine(piece) + "\n";
}

void addRow(std::string& out, const char* name, std::string row) {
    row.erase(row.find_last_not_of(' ') + 1);
    if (!row.empty())
        out += std::string(name) + row + "\n";
}

} // namespace

std::string writeAsciiTab(const Piece& piece, int width) {
    const Score score = writeScore(piece);
    std::string out = head(piece, score);
    const auto strings = static_cast<std::size_t>(piece.instrument.stringCount());
    std::size_t bar = 0;
    while (bar < score.bars.size()) {
        std::vector<std::string> rows;
        for (std::size_t s = 0; s < strings; ++s)
            rows.push_back(stringLabel(piece, static_cast<int>(s) + 1) + "|");
        std::string numbers(3, ' ');
        BarRows under;
        bool first = true;
        while (bar < score.bars.size()) {
            const BarRows next = barRows(piece, score.bars[bar]);
            const std::size_t length = next.strings[0].size();
            if (!first && rows[0].size() + length + 1 > static_cast<std::size_t>(width))
                break;
            if (!first && score.bars[bar].metre != score.bars[bar - 1].metre)
                break; // said at the beginning of a line
            std::string number = std::to_string(score.bars[bar].number);
            if (bar > 0 && score.bars[bar].metre != score.bars[bar - 1].metre)
                number += " (" + score.bars[bar].metre.text() + ")";
            number.resize(std::max(length + 1, number.size()), ' ');
            numbers += number;
            for (std::size_t s = 0; s < strings; ++s)
                rows[s] += next.strings[s] + "|";
            under.rhythm += next.rhythm + " ";
            under.strokes += next.strokes + " ";
            under.fingers += next.fingers + " ";
            first = false;
            ++bar;
        }
        numbers.erase(numbers.find_last_not_of(' ') + 1);
        out += "\n" + numbers + "\n";
        for (const std::string& row : rows)
            out += row + "\n";
        addRow(out, "r: ", under.rhythm);
        addRow(out, "s: ", under.strokes);
        addRow(out, "f: ", under.fingers);
    }
    return out;
}

} // namespace wirenote
