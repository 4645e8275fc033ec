#include "hearing/figures.h"

#include "base/median.h"
#include "piece/one_stroke.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

bool slurredTogether(const Note& from, const Note& to) {
    return to.slurred() && to.onset_s() - from.offset_s() < 0.03;
}

bool inTrill(const std::vector<Note>& notes, std::size_t i) {
    return notes[i].has(Technique::Trill);
}

// From `first` on, how many notes go to and fro between two pitches.
std::size_t trillLength(const std::vector<Note>& notes, std::size_t first, double most_s) {
    std::size_t end = first + 1;
    while (end < notes.size() && slurredTogether(notes[end - 1], notes[end]) &&
           notes[end].onset_s() - notes[end - 1].onset_s() <= most_s &&
           std::abs(notes[end].midi() - notes[end - 1].midi()) <= 4 &&
           notes[end].midi() != notes[end - 1].midi() &&
           (end < first + 2 || notes[end].midi() == notes[end - 2].midi()))
        ++end;
    return end - first;
}

} // namespace

void markTrills(std::vector<Note>& notes, const FigureParameters& p) {
    for (std::size_t i = 0; i < notes.size();) {
        const std::size_t length = trillLength(notes, i, p.trill_note_s);
        if (static_cast<int>(length) < p.trill_notes) {
            ++i;
            continue;
        }
        for (std::size_t k = i; k < i + length; ++k)
            notes[k].add(Technique::Trill);
        i += length;
    }
}

void markGraces(std::vector<Note>& notes, const FigureParameters& p) {
    for (std::size_t i = 0; i + 1 < notes.size(); ++i) {
        const double length_s = notes[i + 1].onset_s() - notes[i].onset_s();
        const double whole_s = notes[i + 1].time.value.length_s();
        if (slurredTogether(notes[i], notes[i + 1]) && !notes[i].slurred() && notes[i].pitched() &&
            length_s <= p.longest_grace_s && length_s <= p.grace_share * whole_s &&
            !inTrill(notes, i) && !inTrill(notes, i + 1))
            notes[i].add(Technique::Grace);
    }
}

void markTremolos(std::vector<Note>& notes, const FigureParameters& p) {
    for (std::size_t i = 0; i < notes.size();) {
        std::size_t end = i + 1;
        std::vector<double> gaps;
        while (end < notes.size() && notes[end].midi() == notes[i].midi() &&
               !notes[end].slurred() && notes[end].pitched() && notes[i].pitched() &&
               notes[end].onset_s() - notes[end - 1].onset_s() <= p.tremolo_s) {
            gaps.push_back(notes[end].onset_s() - notes[end - 1].onset_s());
            ++end;
        }
        const double usual = median(gaps).value_or(0.0);
        const bool even = std::ranges::all_of(
            gaps, [&](double gap) { return std::abs(gap - usual) <= p.tremolo_even * usual; });
        if (even && static_cast<int>(end - i) >= p.tremolo_strokes)
            for (std::size_t k = i; k < end; ++k)
                notes[k].add(Technique::Tremolo);
        i = end;
    }
}

void markRakes(std::vector<Note>& notes, const FigureParameters& p) {
    for (std::size_t i = 1; i < notes.size(); ++i) {
        if (!notes[i].pitched())
            continue;
        std::size_t first = i;
        while (first > 0 && !notes[first - 1].pitched() &&
               notes[first].onset_s() - notes[first - 1].onset_s() <= p.rake_gap_s)
            --first;
        if (static_cast<int>(i - first) < p.rake_strokes)
            continue;
        for (std::size_t k = first; k <= i; ++k)
            notes[k].add(Technique::Rake);
    }
}

void markRolls(std::vector<Note>& notes, const FigureParameters& p) {
    for (std::size_t i = 0; i < notes.size();) {
        // String after string, one way, and all still sounding at the end.
        std::size_t end = i + 1;
        const auto onward = [&](std::size_t at) {
            const double gap_s = notes[at].onset_s() - notes[at - 1].onset_s();
            const int way = notes[i + 1].midi() > notes[i].midi() ? 1 : -1;
            return notes[at].pitched() && !notes[at].slurred() && gap_s >= 0.4 * p.roll_gap_s &&
                   gap_s <= p.roll_most_gap_s &&
                   way * (notes[at].midi() - notes[at - 1].midi()) > 0;
        };
        while (end < notes.size() && notes[i].pitched() && onward(end))
            ++end;
        const double whole_s = notes[end - 1].onset_s() - notes[i].onset_s();
        const bool held = std::all_of(
            notes.begin() + static_cast<std::ptrdiff_t>(i),
            notes.begin() + static_cast<std::ptrdiff_t>(end),
            [&](const Note& n) { return n.offset_s() > notes[end - 1].onset_s() + 0.05; });
        const auto count = static_cast<double>(end - i);
        // Slower than this, it is an arpeggio with a rhythm of its own.
        const bool fast = whole_s <= 0.075 * (count - 1.0);
        if (count >= 3 && held && fast && whole_s >= p.roll_s &&
            whole_s >= p.roll_gap_s * (count - 1.0))
            for (std::size_t k = i; k < end; ++k)
                notes[k].add(Technique::Roll);
        i = end;
    }
}

namespace {

constexpr double kNoPitch_db = -200.0; // of a stroke over damped strings only

struct StrokeLoudness { // of the loudest pitched note
    double db = kNoPitch_db;
    int midi = 0;
};

std::vector<StrokeLoudness> loudnessOf(const std::vector<std::vector<std::size_t>>& strokes,
                                       const std::vector<Note>& notes) {
    std::vector<StrokeLoudness> loudness;
    for (const auto& stroke : strokes) {
        StrokeLoudness loudest;
        for (const std::size_t i : stroke)
            if (notes[i].pitched() && notes[i].loudness_db > loudest.db)
                loudest = {notes[i].loudness_db, notes[i].midi()};
        loudness.push_back(loudest);
    }
    return loudness;
}

// Whether a stroke stands out of those up to `reach` strokes away and within `semitones` of it.
bool standsOut(const std::vector<StrokeLoudness>& loudness,
               std::size_t s,
               std::size_t reach,
               int semitones,
               std::size_t least,
               const FigureParameters& p) {
    std::vector<double> around;
    for (std::size_t k = s > reach ? s - reach : 0; k < std::min(loudness.size(), s + reach + 1);
         ++k)
        if (k != s && loudness[k].db > kNoPitch_db &&
            std::abs(loudness[k].midi - loudness[s].midi) <= semitones)
            around.push_back(loudness[k].db);
    if (around.empty() || around.size() < least)
        return false;
    const double usual = *median(around);
    std::vector<double> off;
    for (const double db : around)
        off.push_back(std::abs(db - usual));
    return loudness[s].db >= usual + std::max(p.accent_db, p.accent_spread * *median(off));
}

} // namespace

void markAccents(std::vector<Note>& notes, const FigureParameters& p) {
    const auto strokes = strokesOf(notes);
    const auto loudness = loudnessOf(strokes, notes);
    for (std::size_t s = 0; s < strokes.size(); ++s) {
        constexpr int kAnyPitch = 127;
        const auto around = static_cast<std::size_t>(p.accent_around);
        if (loudness[s].db <= kNoPitch_db ||
            !standsOut(loudness, s, around, kAnyPitch, around, p) ||
            !standsOut(loudness,
                       s,
                       static_cast<std::size_t>(p.accent_far),
                       p.accent_near_semitones,
                       p.accent_alike,
                       p))
            continue;
        for (const std::size_t i : strokes[s])
            if (notes[i].pitched() && notes[i].loudness_db > loudness[s].db - 6.0)
                notes[i].add(Technique::Accent);
    }
}

namespace {

// Whether a note sounds on past the next strokes, or at least until its own pitch is struck again.
bool ringsPast(const std::vector<std::vector<std::size_t>>& strokes,
               const std::vector<Note>& notes,
               std::size_t s,
               const Note& note,
               const FigureParameters& p) {
    constexpr double kClearly_s = 0.04;
    const auto past = static_cast<std::size_t>(p.ring_past);
    for (std::size_t k = s + 1; k <= s + past && k < strokes.size(); ++k) {
        const double at_s = notes[strokes[k].front()].onset_s();
        const bool again = std::ranges::any_of(
            strokes[k], [&](std::size_t i) { return notes[i].midi() == note.midi(); });
        if (again)
            return note.offset_s() > at_s - kClearly_s;
        if (note.offset_s() < at_s + kClearly_s)
            return false;
    }
    return true;
}

// From stroke `first` on, the strokes that follow each other as an arpeggio's do.
std::size_t passageEnd(const std::vector<std::vector<std::size_t>>& strokes,
                       const std::vector<Note>& notes,
                       std::size_t first,
                       const FigureParameters& p) {
    std::size_t end = first;
    while (end < strokes.size() && strokes[end].size() <= static_cast<std::size_t>(p.ring_notes) &&
           notes[strokes[end].front()].pitched() &&
           (end == first ||
            notes[strokes[end].front()].onset_s() - notes[strokes[end - 1].front()].onset_s() <=
                p.ring_pause_s))
        ++end;
    return end;
}

} // namespace

// Strings that are plucked one after the other and left to sound: the sign stands over the passage,
// with the notes at its joints that a new grip ends.
void markLetRing(std::vector<Note>& notes, const FigureParameters& p) {
    const auto strokes = strokesOf(notes);
    for (std::size_t first = 0; first < strokes.size();) {
        const std::size_t end = passageEnd(strokes, notes, first, p);
        double ringing = 0.0;
        double all = 0.0;
        for (std::size_t s = first; s < end; ++s)
            for (const std::size_t i : strokes[s]) {
                all += 1.0;
                ringing += ringsPast(strokes, notes, s, notes[i], p) ? 1.0 : 0.0;
            }
        if (end - first >= static_cast<std::size_t>(p.ring_strokes) &&
            ringing >= p.ring_share * all)
            for (std::size_t s = first; s < end; ++s)
                for (const std::size_t i : strokes[s])
                    if (std::ranges::none_of(notes[i].techniques, [](Technique t) {
                            return excludes(t, Technique::LetRing);
                        }))
                        notes[i].add(Technique::LetRing);
        first = std::max(end, first + 1);
    }
}

void markFigures(std::vector<Note>& notes, const FigureParameters& parameters) {
    markTrills(notes, parameters);
    markGraces(notes, parameters);
    markTremolos(notes, parameters);
    markRakes(notes, parameters);
    markRolls(notes, parameters);
    markAccents(notes, parameters);
    markLetRing(notes, parameters);
}

} // namespace wirenote
