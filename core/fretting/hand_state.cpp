#include "fretting/hand_state.h"

#include "hand/candidates.h"
#include "piece/one_stroke.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kOverlap_s = 0.05;  // shorter, and a note does not ring on into the next
constexpr double kGripStays_s = 0.5; // from stroke to stroke
constexpr double kKeptFor_s = 2.0;   // a finger waits no longer for its place to come again

// One past the last note up to which all that begins is the same pitch or at least this far from
// all before: a scale is not. Fewer than three pitches are no chord.
std::size_t chordEnd(std::span<const LineNote> notes, std::size_t from) {
    constexpr int kLeastApart = 3; // semitones
    constexpr double kNextWithin_s = 1.0;
    constexpr std::size_t kFewest = 4;
    constexpr std::size_t kMost =
        32; // notes looked at: one that is repeated for an hour is no chord // fewer
    std::vector<int> pitches;
    std::size_t end = from;
    for (; end < std::min(notes.size(), from + kMost); ++end) {
        const LineNote& note = notes[end];
        if (note.onset_s - notes[end > from ? end - 1 : from].onset_s >= kNextWithin_s ||
            !note.alone || note.dead || note.slur != Slur::None)
            break;
        if (std::ranges::find(pitches, note.midi) != pitches.end())
            continue;
        if (std::ranges::any_of(
                pitches, [&note](int pitch) { return std::abs(pitch - note.midi) < kLeastApart; }))
            break;
        pitches.push_back(note.midi);
    }
    return pitches.size() < kFewest ? from + 1 : end;
}

} // namespace

double LineNote::against(int string) const {
    double sum = 0.0;
    for (const StringEvidence& kind : evidence)
        sum += kind.against(string);
    return sum;
}

double LineNote::againstFinger(int string, Finger finger) const {
    const auto at = static_cast<std::size_t>(string - 1);
    if (at >= seen_fingers.size() || finger < Finger::Index || finger > Finger::Little)
        return 0.0;
    return seen_fingers[at][static_cast<std::size_t>(finger) -
                            static_cast<std::size_t>(Finger::Index)];
}

HandLine::HandLine(const Instrument& instrument,
                   std::span<const LineNote> notes,
                   const HandModel& model)
    : m_instrument(instrument), m_notes(notes), m_model(model) {
    for (const LineNote& note : notes)
        m_candidates.push_back(note.fixed_position
                                   ? std::vector<Position>{*note.fixed_position}
                                   : candidatesFor(instrument, note.midi, note.harmonic));
    // On a bass they are lines: a finger on each fret.
    std::size_t end = 0;
    for (std::size_t i = 0; i < notes.size(); ++i)
        m_chord_ends.push_back(end =
                                   std::max(end, instrument.isBass() ? i + 1 : chordEnd(notes, i)));
    for (int fret = 0; fret <= kMaxFrets; ++fret)
        m_fret_mm.push_back(fretPlace_mm(instrument.scale_mm, instrument.capo + fret));
}

bool HandLine::oneBrokenChord(std::size_t from, std::size_t to) const {
    return to > from && to < m_chord_ends[from];
}

double HandLine::between_mm(int from_fret, int to_fret) const {
    return m_fret_mm[static_cast<std::size_t>(std::clamp(to_fret, 0, kMaxFrets))] -
           m_fret_mm[static_cast<std::size_t>(std::clamp(from_fret, 0, kMaxFrets))];
}

bool HandLine::comesAgain(std::size_t i, Position place, double after_s) const {
    for (std::size_t n = i + 1; n < m_notes.size(); ++n) {
        const double wait_s = m_notes[n].onset_s - after_s;
        if (wait_s >= kKeptFor_s)
            return false;
        if (wait_s <= 0.0)
            continue;
        const auto& others = m_candidates[n];
        if (m_notes[n].midi == m_notes[i].midi && std::ranges::find(others, place) != others.end())
            return takesFinger(n, place.fret);
        if (others.size() == 1 && others.front().string == place.string)
            return false;
    }
    return false;
}

namespace {

// A note that another one follows on the same string within one stroke begins a moment of its own.
bool leadsOn(const HandLine& line, std::size_t from, std::size_t to) {
    if (line.note(from).grace || line.note(to).slur != Slur::None)
        return true;
    const auto& a = line.candidates(from);
    const auto& b = line.candidates(to);
    return a.size() == 1 && b.size() == 1 && a.front().string == b.front().string &&
           line.note(from).fixed_position && line.note(to).fixed_position;
}

} // namespace

std::vector<Moment> momentsOf(const HandLine& line) {
    std::vector<double> onsets_s;
    for (std::size_t i = 0; i < line.size(); ++i)
        onsets_s.push_back(line.note(i).onset_s);
    std::vector<Moment> moments;
    for (const IndexSpan& stroke : strokeSpans(onsets_s)) {
        Moment moment;
        for (std::size_t i = stroke.first; i < stroke.end; ++i) {
            if (line.candidates(i).empty())
                continue;
            const bool another = std::ranges::any_of(
                moment.notes, [&](std::size_t before) { return leadsOn(line, before, i); });
            if (another && !moment.notes.empty()) {
                moments.push_back(std::move(moment));
                moment = {};
            }
            if (moment.notes.empty())
                moment.onset_s = line.note(i).onset_s;
            moment.notes.push_back(i);
        }
        if (!moment.notes.empty())
            moments.push_back(std::move(moment));
    }
    return moments;
}

namespace {

// Whether a stroke of two notes and more has only pitches that the state has, too.
bool strikesPartOf(const HandLine& line, const HandState& state, const Moment& moment) {
    return moment.notes.size() > 1 && std::ranges::all_of(moment.notes, [&](std::size_t note) {
               return std::ranges::any_of(state.strings, [&](const OnString& on) {
                   return on.note != OnString::kNoNote &&
                          line.note(on.note).midi == line.note(note).midi;
               });
           });
}

} // namespace

double droppingCost(const HandModel& model, Why why) {
    return why == Why::Rings    ? model.cut_off
           : why == Why::Broken ? model.let_go_chord
                                : model.let_go;
}

std::vector<Carried>
carriedFrom(const HandLine& line, const HandState& state, const Moment& moment) {
    const double onset_s = moment.onset_s;
    const bool part = strikesPartOf(line, state, moment);
    std::vector<Carried> carried;
    for (int string = 1; string <= line.instrument().stringCount(); ++string) {
        OnString held = state.on(string);
        if (held.note == OnString::kNoNote || held.why == Why::Unheld)
            continue;
        const LineNote& note = line.note(held.note);
        if (note.offset_s > onset_s + kOverlap_s && !note.dead)
            held.why = Why::Rings;
        else if (line.oneBrokenChord(held.note, moment.notes.front()))
            held.why = Why::Broken;
        else if (held.stopped() && ((part && note.offset_s > onset_s - kGripStays_s) ||
                                    line.comesAgain(held.note, {string, held.fret}, onset_s)))
            held.why = Why::Kept;
        else
            continue;
        carried.push_back({string, held});
    }
    return carried;
}

} // namespace wirenote
