#include "formats/ascii_tab.h"

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

// One bar as rows of equal length, without bar lines.
std::vector<std::string> barRows(const Piece& piece, const Bar& bar) {
    std::vector<std::string> rows(static_cast<std::size_t>(piece.instrument.stringCount()), "-");
    for (const Value& value : bar.values) {
        std::vector<std::string> cells(rows.size());
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
        std::size_t width = 1;
        for (const std::string& cell : cells)
            width = std::max(width, cell.size());
        // Longer values get more room: a column for each sixteenth, at most eight.
        const auto room = static_cast<std::size_t>(
            std::clamp<std::int64_t>((value.length * Rational(4)).floor(), 1, 8));
        for (std::size_t r = 0; r < rows.size(); ++r) {
            rows[r] += cells[r];
            rows[r].append(width - cells[r].size() + room, '-');
        }
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

} // namespace

std::string writeAsciiTab(const Piece& piece, int width) {
    const Score score = writeScore(piece);
    std::string out = piece.title + "\n";
    if (const std::string names = namesLine(piece.about); !names.empty())
        out += names + "\n";
    out += std::string(instrumentName(piece.instrument.kind)) + ", " + tuningText(piece.instrument);
    if (piece.instrument.capo > 0)
        out += ", capo " + std::to_string(piece.instrument.capo);
    if (score.tempo_bpm > 0.0)
        out += ", " + score.metre.text() + ", " + std::to_string(std::lround(score.tempo_bpm)) +
               " beats a minute";
    out += "\n";
    const auto strings = static_cast<std::size_t>(piece.instrument.stringCount());
    std::size_t bar = 0;
    while (bar < score.bars.size()) {
        std::vector<std::string> rows;
        for (std::size_t s = 0; s < strings; ++s)
            rows.push_back(stringLabel(piece, static_cast<int>(s) + 1) + "|");
        std::string numbers(3, ' ');
        bool first = true;
        while (bar < score.bars.size()) {
            const auto next = barRows(piece, score.bars[bar]);
            if (!first && rows[0].size() + next[0].size() + 1 > static_cast<std::size_t>(width))
                break;
            std::string number = std::to_string(score.bars[bar].number);
            number.resize(std::max(next[0].size() + 1, number.size()), ' ');
            numbers += number;
            for (std::size_t s = 0; s < strings; ++s)
                rows[s] += next[s] + "|";
            first = false;
            ++bar;
        }
        numbers.erase(numbers.find_last_not_of(' ') + 1);
        out += "\n" + numbers + "\n";
        for (const std::string& row : rows)
            out += row + "\n";
    }
    return out;
}

} // namespace wirenote
