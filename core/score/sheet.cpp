#include "score/sheet.h"

#include "base/median.h"
#include "piece/doubts.h"
#include "piece/timeline_map.h"
#include "score/marks.h"
#include "score/repeats.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

namespace wirenote {
namespace {

// Where each note stands, and how long it is written.
struct Written {
    Rational from, to;
    bool grace = false;
    bool there = false;
};

std::vector<Written> placesOf(const Piece& piece, const Score& score) {
    std::vector<Written> places(piece.notes.size());
    const auto read = [&](const Bar& bar, const std::vector<Value>& values) {
        for (const Value& value : values) {
            const Rational at = bar.start + value.start;
            for (const std::size_t i : value.notes) {
                if (!value.tied_from_before || !places[i].there)
                    places[i].from = at;
                places[i].to = at + value.length;
                places[i].there = true;
            }
            for (const std::size_t i : value.graces)
                places[i] = {at, at, true, true};
        }
    };
    for (const Bar& bar : score.bars) {
        read(bar, bar.values);
        read(bar, bar.lower);
    }
    return places;
}

bool presses(const NotePlan& plan) {
    return plan.placed() && plan.position.value.fret > 0 && plan.finger.value >= Finger::Index;
}

// Notes that one finger holds at one fret, while any of them sounds.
std::vector<BarreSign> barresOf(const Piece& piece, const std::vector<Written>& places) {
    std::map<std::pair<Finger, int>, BarreSign> open;
    std::vector<BarreSign> barres;
    const auto close = [&](const BarreSign& barre) {
        if (barre.thick > barre.thin)
            barres.push_back(barre);
    };
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const NotePlan& plan = piece.asPlayed().plans[i];
        if (!places[i].there || places[i].grace || !presses(plan) || !piece.notes[i].pitched())
            continue;
        const Position place = plan.position.value;
        const auto key = std::pair(plan.finger.value, place.fret);
        const auto found = open.find(key);
        if (found != open.end() && places[i].from < found->second.to) {
            BarreSign& barre = found->second;
            barre.to = std::max(barre.to, places[i].to);
            barre.thin = std::min(barre.thin, place.string);
            barre.thick = std::max(barre.thick, place.string);
            continue;
        }
        if (found != open.end()) {
            close(found->second);
            open.erase(found);
        }
        open.emplace(key,
                     BarreSign{places[i].from,
                               places[i].to,
                               place.fret,
                               plan.finger.value,
                               place.string,
                               place.string});
    }
    for (const auto& [key, barre] : open)
        close(barre);
    std::ranges::stable_sort(barres, {}, &BarreSign::from);
    // The same barre laid down again at once is one.
    std::vector<BarreSign> joined;
    for (const BarreSign& barre : barres)
        if (!joined.empty() && joined.back().fret == barre.fret &&
            joined.back().finger == barre.finger && joined.back().to >= barre.from) {
            joined.back().to = std::max(joined.back().to, barre.to);
            joined.back().thin = std::min(joined.back().thin, barre.thin);
            joined.back().thick = std::max(joined.back().thick, barre.thick);
        } else {
            joined.push_back(barre);
        }
    return joined;
}

// Each finger from where it is put down to where it must leave.
std::vector<HoldSign> holdsOf(const Piece& piece, const std::vector<Written>& places) {
    std::map<Finger, std::pair<HoldSign, Position>> down;
    std::vector<HoldSign> holds;
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const NotePlan& plan = piece.asPlayed().plans[i];
        if (!places[i].there || places[i].grace || !presses(plan))
            continue;
        const auto found = down.find(plan.finger.value);
        const Position place = plan.position.value;
        if (found != down.end()) {
            auto& [hold, where] = found->second;
            const bool same = where.fret == place.fret && places[i].from <= hold.to;
            if (same) {
                hold.to = std::max(hold.to, places[i].to);
                continue;
            }
            holds.push_back(hold);
            holds.back().to = std::min(hold.to, places[i].from);
        }
        down[plan.finger.value] = {
            {places[i].from, places[i].to, plan.finger.value, piece.notes[i].id}, place};
    }
    for (const auto& [finger, one] : down)
        holds.push_back(one.first);
    std::ranges::stable_sort(holds, {}, &HoldSign::from);
    return holds;
}

std::vector<PositionSign> positionsOf(const Piece& piece, const std::vector<Written>& places) {
    std::vector<PositionSign> positions;
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        const NotePlan& plan = piece.asPlayed().plans[i];
        if (!places[i].there || !presses(plan) || plan.hand_fret <= 0)
            continue;
        if (!positions.empty() && positions.back().at == places[i].from)
            positions.back().fret = plan.hand_fret; // of one moment the last word
        else
            positions.push_back({places[i].from, plan.hand_fret});
    }
    positions.erase(
        std::unique(positions.begin(),
                    positions.end(),
                    [](const PositionSign& a, const PositionSign& b) { return a.fret == b.fret; }),
        positions.end());
    return positions;
}

// Runs of notes with a technique that goes on.
std::vector<SpanSign> spansOf(const Piece& piece, const std::vector<Written>& places) {
    std::vector<SpanSign> spans;
    for (const Technique technique : {Technique::PalmMute, Technique::LetRing}) {
        bool going = false;
        for (std::size_t i = 0; i < piece.notes.size(); ++i) {
            if (!places[i].there || places[i].grace)
                continue;
            const bool has = piece.notes[i].has(technique);
            if (has && going)
                spans.back().to = places[i].from;
            else if (has)
                spans.push_back({technique, places[i].from, places[i].from, piece.notes[i].id});
            else if (going && places[i].from == spans.back().to)
                continue; // another note of the same stroke
            going = has;
        }
    }
    std::ranges::stable_sort(spans, {}, &SpanSign::from);
    return spans;
}

// Each at the note it was put to; elsewhere at the nearest sixteenth.
std::vector<MarkSign>
marksOf(const Piece& piece, const TimelineMap& map, const std::vector<Written>& places) {
    constexpr double kAtNote_s = 0.03;
    const auto placeOf = [&](double at_s) {
        auto note = std::ranges::lower_bound(piece.notes, at_s - kAtNote_s, {}, &Note::onset_s);
        for (; note != piece.notes.end() && note->onset_s() <= at_s + kAtNote_s; ++note)
            if (const Written& place = places[static_cast<std::size_t>(note - piece.notes.begin())];
                place.there)
                return place.from;
        return Rational(std::lround(4.0 * map.quartersAt(at_s)), 4);
    };
    std::vector<MarkSign> marks;
    for (const SheetMark& mark : piece.marks)
        marks.push_back({mark.kind, placeOf(mark.at_s), placeOf(mark.to_s), mark.text});
    std::ranges::stable_sort(marks, {}, &MarkSign::from);
    return marks;
}

std::vector<WordSign> sectionsOf(const Piece& piece, const TimelineMap& map, const Score& score) {
    std::vector<WordSign> words;
    for (const Section& section : piece.timeline.sections) {
        const double at = map.quartersAt(section.span.start_s);
        // The bar that begins nearest.
        const auto nearest = std::ranges::min_element(
            score.bars, {}, [&](const Bar& bar) { return std::abs(bar.start.toDouble() - at); });
        if (nearest != score.bars.end() && !section.label.empty())
            words.push_back({nearest->start, section.label});
    }
    return words;
}

// Runs of bars, each slower than the one before it, that end well below the tempo before them: at
// the end of the piece, or where that tempo comes back.
void addSlowing(const Score& score, const std::vector<double>& bpm, std::vector<WordSign>& words) {
    constexpr double kSlows = 0.15; // as a share
    constexpr double kBack = 0.08;
    constexpr double kSlower = 0.99;    // from bar to bar
    constexpr std::size_t kLongest = 4; // bars
    for (std::size_t b = 1; b < bpm.size(); ++b) {
        const auto beat = [&](std::size_t bar) { return score.bars[bar].metre.beatLength(); };
        std::size_t end = b;
        while (end < bpm.size() && beat(end) == beat(b - 1) && bpm[end] < bpm[end - 1] * kSlower)
            ++end;
        const double before = bpm[b - 1];
        const bool slows = end >= b + (end == bpm.size() ? 1 : 2) && end - b <= kLongest &&
                           bpm[end - 1] < before * (1.0 - kSlows);
        const bool last = end == bpm.size();
        if (slows && (last || std::abs(bpm[end] / before - 1.0) < kBack)) {
            words.push_back({score.bars[b].start, "rit."});
            if (!last)
                words.push_back({score.bars[end].start, "a tempo"});
        }
        b = std::max(b, end == b ? b : end - 1);
    }
    std::ranges::stable_sort(words, {}, &WordSign::at);
}

// Another tempo that stays, and slowing down.
std::vector<WordSign> tempiOf(const Piece& piece, const TimelineMap& map, const Score& score) {
    constexpr double kOther = 0.12;   // as a share
    constexpr std::size_t kStays = 4; // bars
    std::vector<WordSign> words;
    std::vector<double> bpm;
    for (const Bar& bar : score.bars) {
        const double from = map.timeAt(bar.start.toDouble());
        const double to = map.timeAt((bar.start + bar.length).toDouble());
        bpm.push_back(60.0 * bar.length.toDouble() / std::max(1e-3, to - from)); // quarters
    }
    if (piece.timeline.beats_s.size() < 4 || bpm.empty())
        return words;
    double now = piece.timeline.tempo_bpm > 0.0
                     ? piece.timeline.tempo_bpm * piece.timeline.metre.beatLength().toDouble()
                     : bpm.front();
    for (std::size_t b = 1; b + kStays <= bpm.size(); ++b) {
        std::vector<double> ahead(bpm.begin() + static_cast<std::ptrdiff_t>(b),
                                  bpm.begin() + static_cast<std::ptrdiff_t>(b + kStays));
        const double next = *median(ahead);
        if (std::abs(next / now - 1.0) > kOther && std::abs(bpm[b] / next - 1.0) < kOther / 2.0) {
            const double beats = next / score.bars[b].metre.beatLength().toDouble();
            words.push_back({score.bars[b].start, "= " + std::to_string(std::lround(beats))});
            now = next;
        }
    }
    addSlowing(score, bpm, words);
    return words;
}

std::vector<std::pair<std::size_t, std::size_t>> slursOf(const Piece& piece) {
    std::vector<std::pair<std::size_t, std::size_t>> slurs;
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        if (piece.notes[i].slurred())
            if (const auto before = noteBeforeOnString(piece, i))
                slurs.emplace_back(*before, i);
    return slurs;
}

void addDoubts(const Piece& piece, Sheet& sheet) {
    const auto doubts = openDoubts(piece);
    sheet.doubts = doubts.size();
    for (const Doubt& doubt : doubts)
        (doubt.kind == DoubtKind::Finger   ? sheet.doubtful_fingers
         : doubt.kind == DoubtKind::Stroke ? sheet.doubtful_strokes
                                           : sheet.doubtful_places)
            .insert(doubt.note);
}

} // namespace

std::string roman(int fret) {
    static constexpr std::array<const char*, 10> kOnes = {
        "", "I", "II", "III", "IV", "V", "VI", "VII", "VIII", "IX"};
    const int known = std::clamp(fret, 0, 39);
    return std::string(static_cast<std::size_t>(known / 10), 'X') +
           kOnes[static_cast<std::size_t>(known % 10)];
}

namespace {

// Those that begin with a note where that is written; what is written nowhere names nothing.
std::vector<ChordSign> placed(std::vector<ChordSign> chords, const std::vector<Written>& places) {
    std::erase_if(chords, [&places](const ChordSign& chord) {
        return chord.note != kNoNote && (chord.note >= places.size() || !places[chord.note].there);
    });
    for (ChordSign& chord : chords)
        if (chord.note != kNoNote)
            chord.at = places[chord.note].from;
    return chords;
}

// Which bars are printed, by the style of the piece.
void printBars(const Piece& piece, Sheet& sheet) {
    const SheetRepeats repeats = piece.sheet.repeats;
    std::set<int> keep;
    for (const auto* words : {&sheet.sections, &sheet.tempi})
        for (const WordSign& word : *words)
            for (const Bar& bar : sheet.score.bars)
                if (bar.start == word.at)
                    keep.insert(bar.number);
    sheet.bars = repeats == SheetRepeats::WrittenOut
                     ? writtenOut(sheet.score)
                     : folded(piece, sheet.score, sheet.marks, keep);
    if (repeats < SheetRepeats::ByNumber)
        return;
    for (const MarkSign& mark : sheet.marks) // "as bar 3" would not say them
        for (const Bar& bar : sheet.score.bars)
            if (mark.from < bar.start + bar.length && mark.to >= bar.start)
                keep.insert(bar.number);
    shorten(piece, sheet.score, keep, sheet.bars);
}

} // namespace

Sheet writeSheet(const Piece& piece, std::vector<ChordSign> chords, CountSchool school) {
    const SheetStyle& style = piece.sheet;
    Sheet sheet;
    sheet.score = writeScore(piece, style.voices ? WrittenVoices::AsNeeded : WrittenVoices::One);
    const auto places = placesOf(piece, sheet.score);
    const TimelineMap map(piece.timeline);
    sheet.chords = placed(std::move(chords), places);
    sheet.barres = barresOf(piece, places);
    sheet.holds = holdsOf(piece, places);
    sheet.positions = positionsOf(piece, places);
    sheet.spans = spansOf(piece, places);
    sheet.marks = marksOf(piece, map, places);
    sheet.sections = sectionsOf(piece, map, sheet.score);
    sheet.tempi = tempiOf(piece, map, sheet.score);
    sheet.slurs = slursOf(piece);
    if (style.count)
        sheet.count = countOf(piece, quantise(piece), school);
    addDoubts(piece, sheet);
    printBars(piece, sheet);
    return sheet;
}

} // namespace wirenote
