#include "piece/edits.h"

#include "piece/timeline_edits.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace wirenote {
namespace {

constexpr double kShortestNote_s = 0.01;
constexpr double kSameAttack_s = 0.03; // a start that is put right by less

void openPlacement(NotePlan& plan) {
    plan.position = {};
    plan.position.value = {0, 0};
    plan.finger = {};
}

// A new pitch makes untrue what was measured against the old one.
void givePitch(Note& note, int midi) {
    if (midi != note.midi()) {
        note.curve.clear();
        note.forgetString();
    }
    note.pitch.set(midi);
}

} // namespace

Status PieceEditor::located(NoteId id, std::size_t& index) {
    const auto found = m_piece.indexOf(id);
    if (!found) {
        m_missed = true;
        return badCall("choose a note first");
    }
    index = *found;
    if (!m_before || m_before->note.id != id)
        m_before = DecidedNote{m_piece.notes[index], plan(index)};
    return {};
}

void PieceEditor::setBecause(std::size_t i) {
    const auto say = [this](auto& is, const auto& was) {
        if (is.isSet() && is != was && is.setWhy() == SetWhy::Unsaid)
            is.set(is.value, m_because.why);
    };
    Note& note = m_piece.notes[i];
    say(note.existence, m_before->note.existence);
    say(note.time, m_before->note.time);
    say(note.pitch, m_before->note.pitch);
    say(plan(i).position, m_before->plan.position);
    say(plan(i).finger, m_before->plan.finger);
    say(plan(i).stroke, m_before->plan.stroke);
}

void PieceEditor::log(std::string what, NoteId id) {
    LogEntry entry{m_when, std::move(what), id, m_because.who};
    entry.why = m_because.why;
    entry.remark = m_because.remark;
    if (m_reading != 0)
        entry.reading = reading().head.name;
    if (m_before && m_before->note.id == id) {
        if (const auto i = m_piece.indexOf(id)) {
            if (m_because.why != SetWhy::Unsaid)
                setBecause(*i);
            ChangeText changed =
                changeText(*m_before, {m_piece.notes[*i], plan(*i)}, m_piece.key.spelling());
            entry.from = std::move(changed.from);
            entry.to = std::move(changed.to);
            entry.evidence = std::move(changed.evidence);
            entry.rejected = std::move(changed.rejected);
        } else {
            entry.from = pitchName(m_before->note.pitch.value, m_piece.key.spelling()) + ", " +
                         placeWords(m_before->plan.position.value);
        }
    }
    m_before.reset();
    m_piece.log.push_back(std::move(entry));
}

void PieceEditor::keepOrder() {
    const auto earlier = [](const Note& x, const Note& y) {
        return x.onset_s() != y.onset_s() ? x.onset_s() < y.onset_s() : x.id < y.id;
    };
    if (std::ranges::is_sorted(m_piece.notes, earlier))
        return;
    std::vector<std::size_t> order(m_piece.notes.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::ranges::sort(order, [&](std::size_t a, std::size_t b) {
        return earlier(m_piece.notes[a], m_piece.notes[b]);
    });
    const auto inOrder = [&order](auto& all) {
        std::remove_reference_t<decltype(all)> sorted;
        for (const std::size_t i : order)
            sorted.push_back(std::move(all[i]));
        all = std::move(sorted);
    };
    inOrder(m_piece.notes);
    for (Reading& each : m_piece.readings)
        inOrder(each.plans);
}

void PieceEditor::openEverywhere(std::size_t i) {
    for (Reading& each : m_piece.readings)
        openPlacement(each.plans[i]);
}

void PieceEditor::openWhereItDoesNotSound(std::size_t i, bool but_here) {
    const Note& note = m_piece.notes[i];
    for (Reading& each : m_piece.readings) {
        NotePlan& there = each.plans[i];
        if (!(but_here && &each == &reading()) && there.placed() &&
            !m_piece.instrument.sounds(
                there.position.value, note.frettedMidi(), note.has(Technique::Harmonic)))
            openPlacement(there);
    }
}

void PieceEditor::insertNote(std::size_t at, Note note, const std::vector<NotePlan>& plans) {
    const auto offset = static_cast<std::ptrdiff_t>(at);
    const NoteId id = note.id;
    m_piece.notes.insert(m_piece.notes.begin() + offset, std::move(note));
    for (std::size_t r = 0; r < m_piece.readings.size(); ++r) {
        auto& into = m_piece.readings[r].plans;
        into.insert(into.begin() + offset, plans[r])->note = id;
    }
}

void PieceEditor::eraseNote(std::size_t i) {
    const auto offset = static_cast<std::ptrdiff_t>(i);
    m_piece.notes.erase(m_piece.notes.begin() + offset);
    for (Reading& each : m_piece.readings)
        each.plans.erase(each.plans.begin() + offset);
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
    NotePlan& there = plan(i);
    there.position.set({string, fret});
    there.finger = {};
    for (NoteFacts& facts : m_piece.notes[i].facts)
        facts.seen.shown.reset(); // it is elsewhere now than what was shown
    log("moved to " + placeWords(there.position.value), id);
    return {};
}

Status PieceEditor::showPlace(
    NoteId id, std::size_t take, int string, Finger finger, const ShownIn& shown) {
    if (take >= m_piece.takes.size())
        return badCall("there is no such take");
    if (const Status moved = moveToString(id, string); !moved)
        return moved;
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    if (finger != Finger::Unknown)
        plan(i).finger.set(finger);
    Note& note = m_piece.notes[i];
    const TakeAlignment& alignment = m_piece.takes[take].alignment;
    const TimeRange there = take == 0 ? note.time.value
                                      : TimeRange{alignment.toTake({note.onset_s()}).s,
                                                  alignment.toTake({note.offset_s()}).s};
    note.seenIn(take, there).shown = shown;
    log("shown in the film", id);
    return {};
}

Status PieceEditor::setFret(NoteId id, int fret) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    NotePlan& there = plan(i);
    if (!there.placed())
        return badCall("give the note a string first");
    if (fret < 0 || fret > m_piece.instrument.highestFret())
        return badCall("this neck has frets 0 to " +
                       std::to_string(m_piece.instrument.highestFret()));
    const Position position{there.position.value.string, fret};
    const int node =
        m_piece.notes[i].has(Technique::Harmonic) ? m_piece.instrument.harmonicMidi(position) : -1;
    givePitch(m_piece.notes[i], node >= 0 ? node : m_piece.instrument.midiAt(position));
    there.position.set(position);
    there.finger = {};
    openWhereItDoesNotSound(i, true);
    log("fret set: " + placeWords(position), id);
    return {};
}

Status PieceEditor::setPitch(NoteId id, int midi) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    if (midi < m_piece.instrument.lowestMidi() || midi > m_piece.instrument.highestMidi())
        return badCall(pitchName(midi, m_piece.key.spelling()) + " is not on this neck");
    givePitch(m_piece.notes[i], midi);
    openEverywhere(i);
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
        note.facts.clear(); // it was another attack
    note.existence.set(true);
    note.time.set(time);
    log("start or end set", id);
    keepOrder();
    return {};
}

Status PieceEditor::setFinger(NoteId id, Finger finger) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    NotePlan& there = plan(i);
    if (there.placed() && (there.position.value.fret == 0) != (finger == Finger::Open))
        return badCall(finger == Finger::Open ? "a fretted note needs a finger"
                                              : "an open string needs no finger");
    there.finger.set(finger);
    log("finger set", id);
    return {};
}

Status PieceEditor::setStroke(NoteId id, Stroke stroke) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    plan(i).stroke.set(stroke);
    log("stroke set", id);
    return {};
}

Status PieceEditor::toggleTechnique(NoteId id, Technique technique) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    auto& techniques = m_piece.notes[i].techniques;
    const auto at = std::find(techniques.begin(), techniques.end(), technique);
    if (at != techniques.end()) {
        techniques.erase(at);
    } else {
        std::erase_if(techniques, [technique](Technique t) { return excludes(t, technique); });
        techniques.push_back(technique);
    }
    if (technique == Technique::Harmonic) // lies elsewhere than the stopped note of its pitch
        openWhereItDoesNotSound(i, false);
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
    first.existence.set(true);
    second.existence.set(true);
    first.time.set({first.onset_s(), at_s});
    second.time.set({at_s, second.offset_s()});
    second.techniques.clear();
    second.facts.clear();
    const auto inFirst = [at_s](const PitchPoint& p) { return p.time_s < at_s; };
    std::erase_if(second.curve, inFirst);
    std::erase_if(first.curve, [&](const PitchPoint& p) { return !inFirst(p); });
    std::vector<NotePlan> plans;
    for (const Reading& each : m_piece.readings)
        plans.push_back(each.plans[i]);
    insertNote(i + 1, std::move(second), plans);
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
    note.existence.set(true);
    note.time.set({note.onset_s(), std::max(note.offset_s(), next.offset_s())});
    eraseNote(i + 1);
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
    note.existence.set(true);
    std::vector<NotePlan> plans(m_piece.readings.size());
    for (NotePlan& open : plans)
        openPlacement(open);
    if (position && m_piece.instrument.fretFor(position->string, midi) == position->fret)
        plans[m_reading].position.set(*position);
    insertNote(m_piece.notes.size(), note, plans);
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
    eraseNote(i);
    log("deleted", id);
    return {};
}

Status PieceEditor::accept(NoteId id) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    Note& note = m_piece.notes[i];
    NotePlan& there = plan(i);
    note.existence.set(true);
    note.time.set(note.time.value);
    note.pitch.set(note.pitch.value);
    if (there.placed())
        there.position.set(there.position.value);
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
        for (Reading& each : m_piece.readings)
            if (renamed != note.pitch.value && !each.plans[i].position.isSet())
                openPlacement(each.plans[i]);
        note.pitch.value = renamed;
    }
    log("tuning reference set", 0);
    return {};
}

Status PieceEditor::decideLike(const NotePlan& model,
                               const std::vector<Technique>& techniques,
                               const std::vector<NoteId>& notes) {
    for (const NoteId id : notes) {
        std::size_t i = 0;
        if (const Status found = located(id, i); !found)
            return found;
        Note& note = m_piece.notes[i];
        note.techniques = techniques;
        NotePlan& other = plan(i);
        if (model.placed() && m_piece.instrument.sounds(model.position.value,
                                                        note.frettedMidi(),
                                                        note.has(Technique::Harmonic)))
            other.position.set(model.position.value);
        if (model.finger.value != Finger::Unknown)
            other.finger.set(model.finger.value);
        if (model.stroke.isSet())
            other.stroke.set(model.stroke.value);
        log("as in another repeat", id);
    }
    return {};
}

Status PieceEditor::changeTimeline(const std::string& what,
                                   const std::function<Status(Timeline&)>& change,
                                   bool renumber,
                                   const Settled& says) {
    Timeline changed = m_piece.timeline;
    if (const Status done = change(changed); !done)
        return done;
    if (renumber && !m_piece.notes.empty())
        numberFrom(changed, m_piece.notes.front().onset_s());
    m_piece.timeline = std::move(changed);
    settleToo(says);
    log(what, 0);
    return {};
}

void PieceEditor::settleToo(const Settled& says) {
    Settled& settled = m_piece.settled;
    settled.instrument |= says.instrument;
    settled.tempo |= says.tempo;
    settled.metre |= says.metre;
    settled.one |= says.one;
}

Status PieceEditor::settle(const Settled& says) {
    settleToo(says);
    std::string what = "right as guessed:";
    for (const auto& [said, name] : {std::pair{says.instrument, " instrument"},
                                     {says.tempo, " tempo"},
                                     {says.metre, " metre"},
                                     {says.one, " one"}})
        what += said ? name : "";
    log(what, 0);
    return {};
}

Status PieceEditor::setAbout(const std::string& title, const About& about) {
    if (title.empty())
        return badCall("a piece has a title");
    m_piece.title = title;
    m_piece.title_guessed = false;
    m_piece.about = about;
    log("title and names set", 0);
    return {};
}

Status PieceEditor::setKey(KeySignature key) {
    if (key.fifths < -6 || key.fifths > 6)
        return badCall("a key signature has up to six sharps or flats");
    m_piece.key = key;
    log("key set", 0);
    return {};
}

Status PieceEditor::setSheet(const SheetStyle& style) {
    m_piece.sheet = style;
    log("sheet changed", 0);
    return {};
}

Status PieceEditor::setVoice(NoteId id, std::optional<Voice> voice) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    m_piece.notes[i].voice = voice;
    log(!voice                   ? "voice as it is found"
        : *voice == Voice::Lower ? "written in the lower voice"
                                 : "written in the upper voice",
        id);
    return {};
}

Status PieceEditor::setTempo(double bpm) {
    const double origin_s = m_piece.notes.empty() ? 0.0 : m_piece.notes.front().onset_s();
    const double end_s =
        m_piece.lead() ? m_piece.lead()->length_s
                       : (m_piece.notes.empty() ? origin_s + 4.0 : m_piece.notes.back().offset_s());
    return changeTimeline("tempo set",
                          [&](Timeline& t) { return layTempo(t, bpm, origin_s, end_s); },
                          true,
                          {.tempo = true});
}

Status PieceEditor::setDownbeat(NoteId id) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    const double onset_s = m_piece.notes[i].onset_s();
    return changeTimeline("this note is one",
                          [onset_s](Timeline& t) { return setOne(t, onset_s); },
                          true,
                          {.tempo = true, .one = true});
}

} // namespace wirenote
