#include "piece/edits.h"

#include "piece/timeline_edits.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace wirenote {
namespace {

constexpr double kShortestNote_s = 0.01;
constexpr double kSameAttack_s = 0.03; // a start that is put right by less

std::string placeText(Position p) {
    return "string " + std::to_string(p.string) + ", fret " + std::to_string(p.fret);
}

void openPlacement(NotePlan& plan) {
    plan.position = {};
    plan.position.value = {0, 0};
    plan.finger = {};
}

// A new pitch makes untrue what was measured against the old one.
void givePitch(Note& note, int midi) {
    if (midi != note.midi()) {
        note.curve.clear();
        note.heard.forgetString();
    }
    note.pitch.set(midi);
}

} // namespace

Status PieceEditor::located(NoteId id, std::size_t& index) const {
    const auto found = m_piece.indexOf(id);
    if (!found)
        return badCall("choose a note first");
    index = *found;
    return {};
}

void PieceEditor::log(std::string what, NoteId id) {
    m_piece.log.push_back({m_when, std::move(what), id});
}

void PieceEditor::keepOrder() {
    std::vector<std::size_t> order(m_piece.notes.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::sort(order.begin(), order.end(), [this](std::size_t a, std::size_t b) {
        const Note& x = m_piece.notes[a];
        const Note& y = m_piece.notes[b];
        return x.onset_s() != y.onset_s() ? x.onset_s() < y.onset_s() : x.id < y.id;
    });
    std::vector<Note> notes;
    std::vector<NotePlan> plans;
    for (const std::size_t i : order) {
        notes.push_back(std::move(m_piece.notes[i]));
        plans.push_back(std::move(m_piece.reading.plans[i]));
    }
    m_piece.notes = std::move(notes);
    m_piece.reading.plans = std::move(plans);
}

Status PieceEditor::moveToString(NoteId id, int string) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    const Note& note = m_piece.notes[i];
    if (!m_piece.instrument.hasString(string))
        return badCall("this instrument has no string " + std::to_string(string));
    const auto nodes = note.has(Technique::Harmonic)
                           ? m_piece.instrument.harmonicFrets(string, note.midi())
                           : std::vector<int>{};
    const int fret =
        nodes.empty() ? m_piece.instrument.fretFor(string, note.frettedMidi()) : nodes.front();
    if (fret < 0)
        return badCall(pitchName(note.pitch.value, m_piece.key.spelling()) + " is not on string " +
                       std::to_string(string));
    NotePlan& plan = m_piece.reading.plans[i];
    plan.position.set({string, fret});
    plan.finger = {};
    log("moved to " + placeText(plan.position.value), id);
    return {};
}

Status PieceEditor::setFret(NoteId id, int fret) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    NotePlan& plan = m_piece.reading.plans[i];
    if (!plan.placed())
        return badCall("give the note a string first");
    if (fret < 0 || fret > m_piece.instrument.highestFret())
        return badCall("this neck has frets 0 to " +
                       std::to_string(m_piece.instrument.highestFret()));
    const Position position{plan.position.value.string, fret};
    const int node =
        m_piece.notes[i].has(Technique::Harmonic) ? m_piece.instrument.harmonicMidi(position) : -1;
    givePitch(m_piece.notes[i], node >= 0 ? node : m_piece.instrument.midiAt(position));
    plan.position.set(position);
    plan.finger = {};
    log("fret set: " + placeText(position), id);
    return {};
}

Status PieceEditor::setPitch(NoteId id, int midi) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    if (midi < m_piece.instrument.lowestMidi() || midi > m_piece.instrument.highestMidi())
        return badCall(pitchName(midi, m_piece.key.spelling()) + " is not on this neck");
    givePitch(m_piece.notes[i], midi);
    openPlacement(m_piece.reading.plans[i]);
    log("pitch set: " + pitchName(midi, m_piece.key.spelling()), id);
    return {};
}

Status PieceEditor::setTime(NoteId id, TimeRange time) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    if (!(time.start_s >= 0.0) || !(time.length_s() >= kShortestNote_s))
        return badCall("a note starts at 0 s or later and lasts at least 10 ms");
    Note& note = m_piece.notes[i];
    if (std::abs(time.start_s - note.onset_s()) > kSameAttack_s)
        note.heard = {}; // it was another attack
    note.time.set(time);
    log("start or end set", id);
    keepOrder();
    return {};
}

Status PieceEditor::setFinger(NoteId id, Finger finger) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    NotePlan& plan = m_piece.reading.plans[i];
    if (plan.placed() && (plan.position.value.fret == 0) != (finger == Finger::Open))
        return badCall(finger == Finger::Open ? "a fretted note needs a finger"
                                              : "an open string needs no finger");
    plan.finger.set(finger);
    log("finger set", id);
    return {};
}

Status PieceEditor::setStroke(NoteId id, Stroke stroke) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    m_piece.reading.plans[i].stroke.set(stroke);
    log("stroke set", id);
    return {};
}

Status PieceEditor::toggleTechnique(NoteId id, Technique technique) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    auto& techniques = m_piece.notes[i].techniques;
    const auto at = std::find(techniques.begin(), techniques.end(), technique);
    if (at != techniques.end())
        techniques.erase(at);
    else
        techniques.push_back(technique);
    NotePlan& plan = m_piece.reading.plans[i];
    const Note& note = m_piece.notes[i];
    // A harmonic lies elsewhere than the stopped note of its pitch.
    if (technique == Technique::Harmonic && plan.placed()) {
        const auto nodes =
            m_piece.instrument.harmonicFrets(plan.position.value.string, note.midi());
        const bool harmonic = note.has(Technique::Harmonic);
        if (harmonic ? std::ranges::find(nodes, plan.position.value.fret) == nodes.end()
                     : !m_piece.instrument.sounds(plan.position.value, note.frettedMidi(), false))
            openPlacement(plan);
    }
    log("technique changed", id);
    return {};
}

Status PieceEditor::setSlip(NoteId id, std::optional<Slip> slip) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    const Instrument& instrument = m_piece.instrument;
    if (slip && slip->meant_midi != 0 &&
        (slip->meant_midi < instrument.lowestMidi() || slip->meant_midi > instrument.highestMidi()))
        return badCall(pitchName(slip->meant_midi, m_piece.key.spelling()) +
                       " is not on this neck");
    m_piece.notes[i].slip = slip;
    log(!slip ? "no slip after all"
        : slip->meant_midi == 0
            ? "a slip: not meant to sound"
            : "a slip: meant " + pitchName(slip->meant_midi, m_piece.key.spelling()),
        id);
    return {};
}

Status PieceEditor::split(NoteId id, double at_s) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    Note& first = m_piece.notes[i];
    if (at_s < first.onset_s() + kShortestNote_s || at_s > first.offset_s() - kShortestNote_s)
        return badCall("put the playhead inside the note to split it");
    Note second = first;
    second.id = m_piece.next_id++;
    first.time.set({first.onset_s(), at_s});
    second.time.set({at_s, second.offset_s()});
    second.techniques.clear();
    second.heard = {};
    const auto inFirst = [at_s](const PitchPoint& p) { return p.time_s < at_s; };
    std::erase_if(second.curve, inFirst);
    std::erase_if(first.curve, [&](const PitchPoint& p) { return !inFirst(p); });
    NotePlan plan = m_piece.reading.plans[i];
    plan.note = second.id;
    const auto after = static_cast<std::ptrdiff_t>(i) + 1;
    m_piece.notes.insert(m_piece.notes.begin() + after, std::move(second));
    m_piece.reading.plans.insert(m_piece.reading.plans.begin() + after, std::move(plan));
    keepOrder();
    log("split", id);
    return {};
}

Status PieceEditor::joinWithNext(NoteId id) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    if (i + 1 >= m_piece.notes.size())
        return badCall("there is no note after this one to join");
    const Note next = m_piece.notes[i + 1];
    Note& note = m_piece.notes[i];
    const double shift_cents = (next.pitch.value - note.pitch.value) * 100.0;
    for (const PitchPoint& p : next.curve)
        note.curve.push_back({p.time_s, p.dev_cents + shift_cents});
    note.time.set({note.onset_s(), std::max(note.offset_s(), next.offset_s())});
    const auto after = static_cast<std::ptrdiff_t>(i) + 1;
    m_piece.notes.erase(m_piece.notes.begin() + after);
    m_piece.reading.plans.erase(m_piece.reading.plans.begin() + after);
    log("joined with the next note", id);
    return {};
}

Result<NoteId> PieceEditor::add(TimeRange time, int midi, std::optional<Position> position) {
    if (m_piece.notes.size() >= kMaxNotes)
        return badCall("the piece is full");
    if (!(time.start_s >= 0.0) || !(time.length_s() >= kShortestNote_s))
        return badCall("a note starts at 0 s or later and lasts at least 10 ms");
    if (midi < m_piece.instrument.lowestMidi() || midi > m_piece.instrument.highestMidi())
        return badCall(pitchName(midi, m_piece.key.spelling()) + " is not on this neck");
    Note note;
    note.id = m_piece.next_id++;
    note.time.set(time);
    note.pitch.set(midi);
    NotePlan plan;
    plan.note = note.id;
    openPlacement(plan);
    if (position && m_piece.instrument.fretFor(position->string, midi) == position->fret)
        plan.position.set(*position);
    m_piece.notes.push_back(note);
    m_piece.reading.plans.push_back(plan);
    keepOrder();
    log("added", note.id);
    return note.id;
}

Result<NoteId> PieceEditor::takeMiss(std::size_t miss) {
    if (miss >= m_piece.misses.size())
        return badCall("there is no such missed note");
    const NearMiss taken = m_piece.misses[miss];
    const auto added = add(taken.time, taken.midi, {});
    if (added)
        m_piece.misses.erase(m_piece.misses.begin() + static_cast<std::ptrdiff_t>(miss));
    return added;
}

Status PieceEditor::remove(NoteId id) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    m_piece.notes.erase(m_piece.notes.begin() + static_cast<std::ptrdiff_t>(i));
    m_piece.reading.plans.erase(m_piece.reading.plans.begin() + static_cast<std::ptrdiff_t>(i));
    log("deleted", id);
    return {};
}

Status PieceEditor::accept(NoteId id) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    Note& note = m_piece.notes[i];
    NotePlan& plan = m_piece.reading.plans[i];
    note.time.set(note.time.value);
    note.pitch.set(note.pitch.value);
    if (plan.placed())
        plan.position.set(plan.position.value);
    log("accepted", id);
    return {};
}

Status PieceEditor::setReference(double a4_hz) {
    if (!m_piece.lead())
        return badCall("open a take first");
    if (!(a4_hz >= kLowestA4Hz && a4_hz <= kHighestA4Hz))
        return badCall("A4 must lie between 380 and 480 Hz");
    // The sound stays; its name moves against the new reference.
    const double moved = 12.0 * std::log2(m_piece.lead()->reference.a4_hz / a4_hz);
    m_piece.lead()->reference.a4_hz = a4_hz;
    m_piece.lead()->reference.basis = Basis::Set;
    for (std::size_t i = 0; i < m_piece.notes.size(); ++i) {
        Note& note = m_piece.notes[i];
        if (note.pitch.isSet())
            continue;
        double centre_cents = 0.0;
        for (const PitchPoint& p : note.curve)
            centre_cents += p.dev_cents / static_cast<double>(note.curve.size());
        const double sounding = note.pitch.value + centre_cents / 100.0 + moved;
        const double renamed = std::clamp(std::round(sounding), 0.0, 127.0);
        const double shift_cents = (note.pitch.value + moved - renamed) * 100.0;
        for (PitchPoint& p : note.curve)
            p.dev_cents += shift_cents;
        if (renamed != note.pitch.value && !m_piece.reading.plans[i].position.isSet())
            openPlacement(m_piece.reading.plans[i]);
        note.pitch.value = renamed;
    }
    log("tuning reference set", 0);
    return {};
}

Status PieceEditor::decideLike(const NotePlan& plan,
                               const std::vector<Technique>& techniques,
                               const std::vector<NoteId>& notes) {
    for (const NoteId id : notes) {
        std::size_t i = 0;
        if (const Status found = located(id, i); !found)
            return found;
        Note& note = m_piece.notes[i];
        note.techniques = techniques;
        NotePlan& other = m_piece.reading.plans[i];
        if (plan.placed() && m_piece.instrument.sounds(plan.position.value,
                                                       note.frettedMidi(),
                                                       note.has(Technique::Harmonic)))
            other.position.set(plan.position.value);
        if (plan.finger.value != Finger::Unknown)
            other.finger.set(plan.finger.value);
        if (plan.stroke.isSet())
            other.stroke.set(plan.stroke.value);
        log("as in another repeat", id);
    }
    return {};
}

Status PieceEditor::changeTimeline(const std::string& what,
                                   const std::function<Status(Timeline&)>& change,
                                   bool renumber) {
    Timeline changed = m_piece.timeline;
    if (const Status done = change(changed); !done)
        return done;
    if (renumber && !m_piece.notes.empty())
        numberFrom(changed, m_piece.notes.front().onset_s());
    m_piece.timeline = std::move(changed);
    log(what, 0);
    return {};
}

Status PieceEditor::setTempo(double bpm) {
    const double origin_s = m_piece.notes.empty() ? 0.0 : m_piece.notes.front().onset_s();
    const double end_s =
        m_piece.lead() ? m_piece.lead()->length_s
                       : (m_piece.notes.empty() ? origin_s + 4.0 : m_piece.notes.back().offset_s());
    return changeTimeline(
        "tempo set", [&](Timeline& t) { return layTempo(t, bpm, origin_s, end_s); }, true);
}

Status PieceEditor::setDownbeat(NoteId id) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    const double onset_s = m_piece.notes[i].onset_s();
    return changeTimeline(
        "this note is one", [onset_s](Timeline& t) { return setOne(t, onset_s); }, true);
}

Status PieceEditor::setStringTraits(std::vector<StringTrait> traits) {
    if (!traits.empty() && traits.size() != m_piece.instrument.strings.size())
        return badCall("this calibration is of an instrument with " +
                       std::to_string(traits.size()) + " strings");
    m_piece.string_traits = std::move(traits);
    log(m_piece.string_traits.empty() ? "calibration taken away" : "calibrated", 0);
    return {};
}

namespace {

// Tuned otherwise, perhaps.
bool sameStrings(const Instrument& a, const Instrument& b) {
    return a.scale_mm == b.scale_mm &&
           std::ranges::equal(a.strings, b.strings, [](const StringSpec& s, const StringSpec& t) {
               return s.gauge_mm == t.gauge_mm && s.material == t.material && s.build == t.build;
           });
}

} // namespace

Status PieceEditor::setInstrument(const Instrument& instrument) {
    if (const Status usable = checkInstrument(instrument); !usable)
        return usable;
    // What was learned goes with the places it was learned from; a calibration stays with its
    // strings.
    const bool calibrated = std::ranges::any_of(
        m_piece.string_traits, [](const StringTrait& t) { return t.basis == Basis::Set; });
    if (!calibrated || !sameStrings(instrument, m_piece.instrument))
        m_piece.string_traits.clear();
    if (instrument.kind != m_piece.instrument.kind && !m_piece.reading.head.tool.isSet())
        m_piece.reading.head.tool = {};
    m_piece.instrument = instrument;
    for (std::size_t i = 0; i < m_piece.notes.size(); ++i) {
        NotePlan& plan = m_piece.reading.plans[i];
        if (plan.placed() && !instrument.sounds(plan.position.value,
                                                m_piece.notes[i].frettedMidi(),
                                                m_piece.notes[i].has(Technique::Harmonic)))
            openPlacement(plan);
    }
    log("instrument set", 0);
    return {};
}

Status PieceEditor::setTool(PluckingTool tool) {
    if (tool == PluckingTool::Unknown)
        return badCall("choose a pick or the fingers");
    m_piece.reading.head.tool.set(tool);
    log(tool == PluckingTool::Pick ? "played with a pick" : "played with the fingers", 0);
    return {};
}

} // namespace wirenote
