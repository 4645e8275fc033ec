#include "fretting/part_line.h"

#include "fretting/likeness.h"
#include "fretting/schools.h"
#include "fretting/wishes.h"
#include "music/fifths.h"
#include "seeing/tip_evidence.h"
#include "strings/string_traits.h"
#include "strings/tone_traits.h"

#include <algorithm>
#include <utility>

namespace wirenote {
namespace {

// How far is not always told; a tone is usual.
double drawnSemitones(const Note& note) {
    constexpr double kUsual = 2.0;
    const double told = note.bendSemitones();
    return told > 0.0 || !note.has(Technique::Bend) ? told : kUsual;
}

LineNote lineNote(const Instrument& instrument,
                  const std::vector<StringTrait>& traits,
                  const Row& row,
                  bool as_heard) {
    const auto& [note, plan] = row;
    const HeardFacts heard = note.heard();
    LineNote line;
    line.onset_s = note.onset_s();
    line.offset_s = note.offset_s();
    line.midi = note.frettedMidi();
    line.belief = note.existence.probability;
    line.harmonic = note.has(Technique::Harmonic);
    line.dead = !note.pitched();
    line.grace = note.has(Technique::Grace);
    line.slur = note.has(Technique::Slide)      ? Slur::Slide
                : note.has(Technique::HammerOn) ? Slur::Hammer
                : note.has(Technique::PullOff)  ? Slur::Pull
                                                : Slur::None;
    line.drawn_semitones = drawnSemitones(note);
    line.vibrato = note.has(Technique::Vibrato);
    line.squeak_before = as_heard && heard.squeak_before;
    if (as_heard && !line.harmonic &&
        line.midi == note.midi()) { // else another length of the string sounds
        line.evidence = toneEvidence(instrument, traits, note);
        line.evidence.push_back({ReasonKind::StiffnessFits,
                                 Basis::Heard,
                                 stiffnessCosts(instrument, traits, heard.stiffness, line.midi)});
    }
    if (const SeenFacts* seen = note.seen(); as_heard && seen && !line.dead && !line.harmonic) {
        const NeckPlane plane(instrument);
        line.evidence.push_back(tipEvidence(instrument, plane, *seen, line.midi));
        line.seen_fingers = fingerEvidence(instrument, *seen, line.midi);
    }
    if (plan.position.isSet() && plan.placed())
        line.fixed_position = plan.position.value;
    if (plan.finger.isSet())
        line.fixed_finger = plan.finger.value;
    return line;
}

// A note of a line: nothing else begins or sounds with it.
void markAlone(std::vector<LineNote>& line, const std::vector<std::vector<std::size_t>>& strokes) {
    constexpr double kOverlap_s = 0.08; // shorter, and notes only touch
    for (LineNote& note : line)
        note.alone = true;
    for (const auto& stroke : strokes)
        for (const std::size_t i : stroke)
            line[i].alone = stroke.size() == 1;
    double sounds_until = -1.0;
    for (std::size_t i = 0; i < line.size(); ++i) {
        if (sounds_until > line[i].onset_s + kOverlap_s ||
            (i + 1 < line.size() && line[i].offset_s > line[i + 1].onset_s + kOverlap_s))
            line[i].alone = false;
        sounds_until = std::max(sounds_until, line[i].offset_s);
    }
}

// Strokes of three and more strings whose notes come one after the other; the line is of these
// notes.
void markStrums(std::vector<LineNote>& line, std::span<const Note> notes) {
    constexpr std::size_t kFewest = 3;
    constexpr double kLeastStep_s = 0.004; // a hand that plucks takes all at once
    const auto strokes = strokesOf(notes);
    markAlone(line, strokes);
    for (const auto& stroke : strokes) {
        const double spread_s = notes[stroke.back()].onset_s() - notes[stroke.front()].onset_s();
        if (stroke.size() >= kFewest &&
            spread_s >= kLeastStep_s * static_cast<double>(stroke.size() - 1))
            for (const std::size_t i : stroke)
                line[i].crossed = true;
    }
}

bool strikesFifth(std::span<const Note> notes, const std::vector<std::size_t>& stroke) {
    std::vector<int> pitches;
    for (const std::size_t i : stroke)
        pitches.push_back(notes[i].frettedMidi());
    return isFifth(std::move(pitches));
}

// Among fifths whose roots are mostly no open strings, the others are stopped as well: one shape
// that goes along the neck, damped by the hand that holds it (common practice).
void markTravellingFifths(const Instrument& instrument,
                          std::vector<LineNote>& line,
                          std::span<const Note> notes) {
    constexpr double kReach_s = 6.0;
    constexpr int kFewest = 3;
    struct Fifth {
        double time_s = 0.0;
        bool open_root = false;
        bool set_open = false; // by a person
        std::vector<std::size_t> notes;
    };
    std::vector<Fifth> fifths;
    for (const auto& stroke : strokesOf(notes)) {
        if (!strikesFifth(notes, stroke))
            continue;
        int root = notes[stroke.front()].frettedMidi();
        for (const std::size_t i : stroke)
            root = std::min(root, notes[i].frettedMidi());
        bool open = false;
        for (int string = 1; string <= instrument.stringCount(); ++string)
            open |= instrument.midiAt({string, 0}) == root;
        const bool set_open = std::ranges::any_of(stroke, [&](std::size_t i) {
            const auto& set = line[i].fixed_position;
            return set && set->fret == 0 && set->string != instrument.stringCount();
        });
        fifths.push_back({notes[stroke.front()].onset_s(), open, set_open, stroke});
    }
    std::size_t from = 0;
    std::size_t to = 0;
    std::ptrdiff_t stopped = 0; // of those within reach, [from, to)
    const auto vote = [](const Fifth& fifth) {
        constexpr std::ptrdiff_t kWord = 1000;
        return fifth.set_open ? -kWord : fifth.open_root ? 0 : 1;
    };
    for (const Fifth& fifth : fifths) {
        for (; to < fifths.size() && fifths[to].time_s <= fifth.time_s + kReach_s; ++to)
            stopped += vote(fifths[to]);
        for (; fifths[from].time_s < fifth.time_s - kReach_s; ++from)
            stopped -= vote(fifths[from]);
        const auto near = static_cast<std::ptrdiff_t>(to - from);
        if (near >= kFewest && 2 * stopped >= near)
            for (const std::size_t i : fifth.notes)
                line[i].travels = true;
    }
}

// The nearest note that a person placed on a fret tells where the hand is.
void markGiven(std::vector<LineNote>& line, const Rows& rows, std::size_t first) {
    std::size_t next = 0; // the first given one at or after a note
    const LineNote* before = nullptr;
    const auto given = [&](std::size_t i) {
        const NotePlan& plan = rows[first + i].plan;
        return plan.position.isSet() && plan.placed() && plan.position.value.fret > 0;
    };
    for (std::size_t i = 0; i < line.size(); ++i) {
        next = std::max(next, i);
        while (next < line.size() && !given(next))
            ++next;
        const LineNote* after = next < line.size() ? &line[next] : nullptr;
        const bool back = before && (!after || line[i].onset_s - before->onset_s <=
                                                   after->onset_s - line[i].onset_s);
        if (const LineNote* nearest = back ? before : after)
            line[i].near_fret = nearest->fixed_position->fret;
        if (given(i))
            before = &line[i];
    }
}

void fixAsIs(LineNote& line, const NotePlan& plan) {
    if (!plan.placed())
        return;
    line.fixed_position = plan.position.value;
    if (plan.finger.value != Finger::Unknown)
        line.fixed_finger = plan.finger.value;
}

} // namespace

Way wayOf(const ReadingHead& head, const Instrument& instrument, const Rows& rows) {
    return {playerModel(wishedModel(schoolModel(head.fretting, instrument), head.wish),
                        head.fretting.school,
                        instrument,
                        rows),
            head.wish.kind == WishKind::None};
}

PartLine partLine(const Instrument& instrument,
                  const Rows& rows,
                  const std::vector<StringTrait>& traits,
                  IndexSpan part,
                  bool as_heard,
                  bool alike) {
    const std::size_t first = part.first > kPartReach ? part.first - kPartReach : 0;
    const std::size_t last = std::min(rows.size(), part.end + kPartReach);
    std::vector<LineNote> line;
    for (std::size_t i = first; i < last; ++i) {
        line.push_back(lineNote(instrument, traits, rows[i], as_heard));
        if (i < part.first || i >= part.end)
            fixAsIs(line.back(), rows[i].plan);
    }
    markStrums(line, rows.notes().subspan(first, last - first));
    markTravellingFifths(instrument, line, rows.notes().subspan(first, last - first));
    markGiven(line, rows, first);
    if (alike) {
        auto evidence = likenessEvidence(instrument.stringCount(), rows, part);
        for (std::size_t i = part.first; i < part.end; ++i)
            std::ranges::move(evidence[i - part.first],
                              std::back_inserter(line[i - first].evidence));
    }
    return {std::move(line), first};
}

} // namespace wirenote
