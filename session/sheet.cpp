#include "session/sheet.h"

#include "engraving/sheet_pages.h"
#include "form/harmony.h"
#include "piece/timeline_map.h"
#include "score/bar_cells.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace wirenote {
namespace {

// What the hand holds over a chord: on each string the first fret that it needs.
std::optional<Grip> gripOver(const Piece& piece, TimeRange span) {
    Grip grip{
        std::vector<int>(static_cast<std::size_t>(piece.instrument.stringCount()), Grip::kSilent)};
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const NotePlan& plan = piece.asPlayed().plans[i];
        const double onset_s = piece.notes[i].onset_s();
        if (onset_s < span.start_s - 1e-3 || onset_s >= span.end_s - 1e-3 || !plan.placed() ||
            !piece.notes[i].pitched())
            continue;
        int& fret = grip.frets[static_cast<std::size_t>(plan.position.value.string - 1)];
        if (fret == Grip::kSilent)
            fret = plan.position.value.fret;
    }
    return grip.sounding() >= 2 ? std::optional(grip) : std::nullopt;
}

// Two notes of a tune over its bass make no chord that a reader wants named, but for fifths.
bool worthAName(const Piece& piece, const ChordSpan& span) {
    constexpr std::size_t kChord = 3;
    if (!span.said.empty())
        return true;
    std::set<int> classes;
    for (const Note& note : piece.notes)
        if (note.pitched() && note.onset_s() > span.span.start_s - 1e-3 &&
            note.onset_s() < span.span.end_s - 1e-3)
            classes.insert(note.midi() % 12);
    return classes.size() >= kChord ||
           (span.chord.kind == "5" && (span.chord.bass < 0 || span.chord.bass == span.chord.root));
}

std::vector<ChordSign> chordSigns(const Piece& piece) {
    constexpr double kTogether_s = 0.08;
    const TimelineMap map(piece.timeline);
    std::vector<ChordSign> signs;
    for (const ChordSpan& span : chordsOf(piece)) {
        const auto first =
            std::ranges::lower_bound(piece.notes, span.span.start_s - 1e-3, {}, &Note::onset_s);
        const std::string name = chordText(span, piece.key.spelling());
        const bool begins =
            first != piece.notes.end() && first->onset_s() - span.span.start_s < kTogether_s;
        if ((!begins && span.said.empty()) || name.empty() ||
            (!signs.empty() && signs.back().name == name) || !worthAName(piece, span))
            continue;
        ChordSign sign;
        if (begins)
            sign.note = static_cast<std::size_t>(first - piece.notes.begin());
        else // it does not sound in this part
            sign.at = Rational(std::lround(4.0 * map.quartersAt(span.span.start_s)), 4);
        sign.name = name;
        if (piece.sheet.grips)
            sign.grip = gripOver(piece, span.span);
        signs.push_back(std::move(sign));
    }
    return signs;
}

} // namespace

Sheet sheetOf(const Piece& piece, CountSchool school) {
    Sheet sheet =
        writeSheet(piece,
                   piece.sheet.chords || piece.sheet.grips ? chordSigns(piece)
                                                           : std::vector<ChordSign>{},
                   school);
    if (piece.sheet.repeats == SheetRepeats::Cells)
        cutToCells(piece, sheet);
    return sheet;
}

std::vector<SheetPage> excerptPages(const Piece& piece,
                                    const std::vector<std::pair<int, int>>& stretches) {
    Piece shown = piece;
    shown.sheet.size = SheetSize::HandOut;
    shown.sheet.repeats = SheetRepeats::WrittenOut;
    shown.sheet.count = true;
    shown.sheet.exactness = false;
    shown.about = {};
    shown.title.clear();
    const Sheet whole = sheetOf(shown, piece.lesson.manner.count);
    std::vector<SheetPage> pages;
    for (const auto& [first_bar, last_bar] : stretches) {
        Sheet sheet = whole;
        std::erase_if(sheet.bars, [&, first = first_bar, last = last_bar](const PrintedBar& bar) {
            const int number = whole.score.bars[bar.bar].number;
            return number < first || number > last;
        });
        pages.push_back(layOutSheet(shown, sheet).front());
    }
    return pages;
}

std::vector<SheetPage> pagesOf(const Piece& piece, CountSchool school) {
    return layOutSheet(piece, sheetOf(piece, school));
}

} // namespace wirenote
