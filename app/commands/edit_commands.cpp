#include "app/commands/edit_commands.h"

#include "app/document/derived.h"
#include "app/document/selection.h"
#include "app/playing/transport.h"
#include "app/strip/time_view.h"
#include "app/text/wording.h"
#include "base/median.h"
#include "session/resolve.h"

#include <algorithm>

namespace wirenote::app {
namespace {

constexpr double kNewNote_s = 0.3;
constexpr double kLeadIn_s =
    0.25; // heard before the note, so that the ear has something to compare

} // namespace

EditCommands::EditCommands(Document& document,
                           Selection& selection,
                           Derived& derived,
                           TimeView& time,
                           Transport& transport)
    : m_document(document), m_selection(selection), m_derived(derived), m_time(time),
      m_transport(transport) {
    connect(&selection, &Selection::changed, this, [this] {
        if (m_transport.part() != SoundPart::All && m_document.piece().note(m_selection.note()))
            m_transport.setPart(m_transport.part(), m_selection.note());
    });
}

const Note* EditCommands::chosen() {
    const Note* note = m_document.piece().note(m_selection.note());
    if (!note)
        emit said(tr("Choose a note first: click it, or press the right arrow."));
    return note;
}

bool EditCommands::editNote(const QString& label,
                            const std::function<Status(PieceEditor&, NoteId)>& change,
                            Merge merge) {
    const Note* note = chosen();
    if (!note)
        return false;
    const NoteId id = note->id;
    return m_document.edit(label,
                           note->onset_s(),
                           [&](PieceEditor& editor) { return change(editor, id); },
                           Resolve::Neighbourhood,
                           {merge, merge == Merge::No ? 0 : id});
}

bool EditCommands::edit(const QString& label,
                        const std::function<Status(PieceEditor&, NoteId)>& change,
                        Merge merge) {
    const std::vector<NoteId> all = m_selection.all();
    if (all.size() < 2)
        return editNote(label, change, merge);
    // What is decided of a short passage concerns its neighbourhood; of a long one, the piece.
    constexpr std::size_t kShort = 16;
    const NoteId middle = all[all.size() / 2];
    const Note* about = m_document.piece().note(middle);
    return m_document.editShown(countText(static_cast<int>(all.size()),
                                          QT_TRANSLATE_NOOP("wording", "%1 note"),
                                          QT_TRANSLATE_NOOP("wording", "%1 notes")) +
                                    ": " + label,
                                about ? about->onset_s() : 0.0,
                                [&](PieceEditor& editor) -> Status {
                                    for (const NoteId id : all)
                                        if (const Status done = change(editor, id); !done)
                                            return done;
                                    return {};
                                },
                                all.size() <= kShort ? Resolve::Neighbourhood : Resolve::WholePiece,
                                {merge, merge == Merge::No ? 0 : middle});
}

void EditCommands::moveToString(int string) {
    const auto move = [string](PieceEditor& e, NoteId id) { return e.moveToString(id, string); };
    const QString label = tr("move to string %1").arg(string);
    // No two notes of one chord go on one string: of a chord it is the one that the card tells of.
    m_selection.isOneStroke() ? editNote(label, move) : edit(label, move);
}

void EditCommands::toStrings(int first, int last) {
    const Piece& piece = m_document.piece();
    std::vector<double> frets; // where the hand is so far
    for (const NoteId id : m_selection.all())
        if (const NotePlan* plan = piece.plan(id); plan && plan->position.value.fret > 0)
            frets.push_back(plan->position.value.fret);
    const double hand = median(frets).value_or(0.0);
    const auto there = [&](const Note& note) {
        int best = 0;
        double least = 1e9;
        for (int s = first; s <= last; ++s)
            if (const int fret = piece.instrument.fretFor(s, note.frettedMidi());
                fret >= 0 && std::abs(fret - hand) < least) {
                least = std::abs(fret - hand);
                best = s;
            }
        return best;
    };
    for (const NoteId id : m_selection.all())
        if (const Note* note = piece.note(id); note && there(*note) == 0) {
            emit said(
                tr("%1 lies on none of these strings.").arg(pitchText(piece, note->pitch.value)));
            return;
        }
    edit(tr("on strings %1 to %2").arg(first).arg(last),
         [&](PieceEditor& e, NoteId id) { return e.moveToString(id, there(*piece.note(id))); });
}

void EditCommands::toPosition(int hand_fret) {
    constexpr int kFrets = 4; // one finger a fret
    const Piece& piece = m_document.piece();
    const auto there = [&](const Note& note) {
        for (int s = 1; s <= piece.instrument.stringCount(); ++s)
            if (const int fret = piece.instrument.fretFor(s, note.frettedMidi());
                fret >= hand_fret && fret < hand_fret + kFrets)
                return s;
        return 0;
    };
    int moved = 0;
    for (const NoteId id : m_selection.all())
        if (const Note* note = piece.note(id))
            moved += there(*note) > 0 ? 1 : 0;
    if (moved == 0) {
        emit said(tr("None of these notes lies in %1.").arg(positionText(hand_fret)));
        return;
    }
    edit(tr("in %1").arg(positionText(hand_fret)), [&](PieceEditor& e, NoteId id) -> Status {
        const Note* note = piece.note(id);
        const int string = note ? there(*note) : 0;
        return string > 0 ? e.moveToString(id, string) : Status{}; // the others stay
    });
}

void EditCommands::changeFret(int frets) {
    edit(
        tr("change fret"),
        [this, frets](PieceEditor& e, NoteId id) {
            const NotePlan* plan = m_document.piece().plan(id);
            return e.setFret(id, plan ? plan->position.value.fret + frets : 0);
        },
        Merge::Fret);
}

void EditCommands::changePitch(int semitones) {
    edit(
        tr("change pitch"),
        [this, semitones](PieceEditor& e, NoteId id) {
            const Note* note = m_document.piece().note(id);
            return e.setPitch(id, note ? note->midi() + semitones : 0);
        },
        Merge::Pitch);
}

void EditCommands::moveStart(double seconds) {
    const Note* note = chosen();
    if (!note)
        return;
    const TimeRange time{std::max(0.0, note->onset_s() + seconds), note->offset_s()};
    editNote(
        tr("move start"),
        [time](PieceEditor& e, NoteId id) { return e.setTime(id, time); },
        Merge::Start);
}

void EditCommands::moveEnd(double seconds) {
    const Note* note = chosen();
    if (!note)
        return;
    const TimeRange time{note->onset_s(), note->offset_s() + seconds};
    editNote(
        tr("move end"),
        [time](PieceEditor& e, NoteId id) { return e.setTime(id, time); },
        Merge::End);
}

void EditCommands::setTime(NoteId note, TimeRange time) {
    m_selection.choose(note);
    editNote(tr("move start or end"),
             [time](PieceEditor& e, NoteId id) { return e.setTime(id, time); });
}

void EditCommands::setFinger(Finger finger) {
    edit(tr("set finger"), [finger](PieceEditor& e, NoteId id) { return e.setFinger(id, finger); });
}

// A pick goes over all strings of a stroke the same way.
void EditCommands::setStroke(Stroke stroke) {
    if (m_selection.all().size() == 1 && (stroke == Stroke::Down || stroke == Stroke::Up))
        m_selection.chooseStroke(m_selection.note());
    edit(tr("set stroke"), [stroke](PieceEditor& e, NoteId id) { return e.setStroke(id, stroke); });
}

void EditCommands::playWith(PluckingTool tool) {
    if (!chosen())
        return;
    const auto strokes = strokesWith(m_document.piece(), m_selection.all(), tool);
    edit(tr("play with %1").arg(toolText(tool)), [&](PieceEditor& e, NoteId id) {
        const auto said = std::ranges::find(strokes, id, &std::pair<NoteId, Stroke>::first);
        return said == strokes.end() ? Status{} : e.setStroke(id, said->second);
    });
}

// The stroke that is in doubt goes as it is written down.
void EditCommands::acceptStroke() {
    const NotePlan* plan = m_document.piece().plan(m_selection.note());
    const Stroke stroke = plan ? plan->stroke.value : Stroke::Unknown;
    m_selection.chooseStroke(m_selection.note());
    if (!edit(tr("accept"),
              [stroke](PieceEditor& e, NoteId id) { return e.setStroke(id, stroke); }))
        return;
    emit said(tr("It is a stroke %1: decided by you.").arg(strokeText(stroke)));
    nextDoubt();
}

// Of several: all get it, unless all have it.
void EditCommands::toggleTechnique(Technique technique) {
    const Piece& piece = m_document.piece();
    const auto has = [&](NoteId id) {
        const Note* note = piece.note(id);
        return note && note->has(technique);
    };
    const bool give = !std::ranges::all_of(m_selection.all(), has);
    edit(tr("change technique"), [&](PieceEditor& e, NoteId id) {
        return has(id) == give ? Status{} : e.toggleTechnique(id, technique);
    });
}

void EditCommands::markSlip() {
    const Note* note = chosen();
    if (!note)
        return;
    const auto slip = note->slip ? std::nullopt : std::optional<Slip>(Slip{});
    editNote(slip ? tr("mark a slip") : tr("no slip"),
             [slip](PieceEditor& e, NoteId id) { return e.setSlip(id, slip); });
}

void EditCommands::setMeant(int midi) {
    editNote(
        tr("say what was meant"),
        [midi](PieceEditor& e, NoteId id) { return e.setSlip(id, Slip{midi}); },
        Merge::Meant);
}

void EditCommands::split() {
    const Note* note = chosen();
    if (!note)
        return;
    const auto inside = [note](double t) { return t > note->onset_s() && t < note->offset_s(); };
    const auto pointed = m_time.pointed_s();
    const double at_s = pointed && inside(*pointed) ? *pointed : m_transport.playhead_s();
    if (!inside(at_s)) {
        emit said(tr("Put the pointer or the playhead inside the note, where it is to be split."));
        return;
    }
    editNote(tr("split"), [at_s](PieceEditor& e, NoteId id) { return e.split(id, at_s); });
}

double EditCommands::eyes_s() const {
    const Note* note = m_document.piece().note(m_selection.note());
    return note ? note->onset_s() : m_time.pointed_s().value_or(m_transport.playhead_s());
}

void EditCommands::follow() {
    const Note* note = m_document.piece().note(m_selection.note());
    if (note && !m_transport.playing())
        m_transport.seek(note->onset_s());
}

void EditCommands::step(int notes, bool extend) {
    m_selection.step(notes, extend);
    follow();
}

void EditCommands::stepToTheFirst() {
    m_transport.seek(0.0);
    if (m_document.piece().notes.empty())
        m_time.bringIntoView(0.0);
    else
        m_selection.choose(m_document.piece().notes.front().id);
    follow();
}

void EditCommands::joinWithNext() {
    editNote(tr("join"), [](PieceEditor& e, NoteId id) { return e.joinWithNext(id); });
}

void EditCommands::addHere() {
    const NotePlan* plan = m_document.piece().plan(m_selection.note());
    addAt(m_time.pointed_s().value_or(m_transport.playhead_s()),
          plan && plan->placed() ? plan->position.value.string : 1);
}

void EditCommands::addAt(double time_s, int string) {
    if (!m_document.isOpen() || !m_document.piece().instrument.hasString(string))
        return;
    // The fret last used on that string is the likeliest; the open string otherwise.
    Position position{string, 0};
    const Piece& piece = m_document.piece();
    double end_s = time_s + kNewNote_s;
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        if (piece.notes[i].onset_s() <= time_s &&
            piece.asPlayed().plans[i].position.value.string == string)
            position.fret = piece.asPlayed().plans[i].position.value.fret;
        if (piece.notes[i].onset_s() > time_s + 0.05)
            end_s = std::min(end_s, piece.notes[i].onset_s());
    }
    NoteId added = 0;
    m_document.edit(tr("add a note"), time_s, [&](PieceEditor& e) -> Status {
        const auto id = e.add({time_s, end_s}, piece.instrument.midiAt(position), position);
        if (!id)
            return id.error();
        added = *id;
        return {};
    });
    if (added)
        m_selection.choose(added);
}

void EditCommands::takeMiss(std::size_t miss) {
    const auto& misses = m_document.piece().misses;
    if (miss >= misses.size())
        return;
    NoteId taken = 0;
    m_document.edit(
        tr("take a missed note"), misses[miss].time.start_s, [&](PieceEditor& e) -> Status {
            const auto id = e.takeMiss(miss);
            if (!id)
                return id.error();
            taken = *id;
            return {};
        });
    if (taken)
        m_selection.choose(taken);
}

void EditCommands::takeNearestMiss() {
    constexpr double kNear_s = 1.0;
    const auto& misses = m_document.piece().misses;
    const double at_s = eyes_s();
    const int lowest = m_document.piece().instrument.lowestMidi();
    const auto nearest = std::ranges::min_element(misses, {}, [=](const NearMiss& m) {
        // The likelier one of those that began together.
        return std::abs(m.time.start_s - at_s) - 0.05 * m.probability +
               (m.midi < lowest ? 2.0 * kNear_s : 0.0); // it says that this is another instrument
    });
    if (nearest == misses.end() || nearest->midi < lowest ||
        std::abs(nearest->time.start_s - at_s) > kNear_s) {
        emit said(tr("Nothing else was nearly heard within a second of here."));
        return;
    }
    takeMiss(static_cast<std::size_t>(nearest - misses.begin()));
}

void EditCommands::remove() {
    const std::vector<NoteId> all = m_selection.all();
    const auto index = all.empty() ? std::nullopt : m_document.piece().indexOf(all.front());
    if (!edit(tr("delete"), [](PieceEditor& e, NoteId id) { return e.remove(id); }) || !index)
        return;
    const auto& notes = m_document.piece().notes;
    if (!notes.empty())
        m_selection.choose(notes[std::min(*index, notes.size() - 1)].id);
}

void EditCommands::accept() {
    const std::vector<NoteId> all = m_selection.all();
    const Doubt* doubt = m_derived.doubtOf(m_selection.note());
    if (all.size() == 1 && doubt && doubt->kind == DoubtKind::Stroke) {
        acceptStroke();
        return;
    }
    const bool was_doubt =
        std::ranges::any_of(all, [this](NoteId id) { return m_derived.doubtOf(id) != nullptr; });
    if (!edit(tr("accept"), [](PieceEditor& e, NoteId id) { return e.accept(id); }))
        return;
    const Piece& piece = m_document.piece();
    const Note& note = *piece.note(m_selection.note());
    const NotePlan& plan = *piece.plan(note.id);
    const QString pitch = pitchText(piece, note.pitch.value);
    emit said(
        all.size() > 1 ? tr("%1 notes are right: decided by you.").arg(all.size())
        : plan.placed()
            ? tr("%1 on %2 is right: decided by you.").arg(pitch, placeText(plan.position.value))
            : tr("%1 is right: decided by you.").arg(pitch));
    if (was_doubt)
        nextDoubt();
}

// The next one after what was decided last: what follows from that has to be known first.
void EditCommands::nextDoubt() {
    m_derived.whenUpToDate([this] { goToNextDoubt(); });
}

void EditCommands::goToNextDoubt() {
    const auto& doubts = m_derived.doubts();
    if (doubts.empty()) {
        if (m_document.isOpen() && !m_derived.questions().empty())
            emit said(
                tr("No note is in doubt. Questions about the whole piece are open: Shift+N."));
        else if (m_document.isOpen())
            emit said(m_document.piece().notes.empty() ? tr("There is no note to doubt yet.")
                      : m_derived.strokesGuessed()
                          ? tr("No open doubts of notes, places and fingers. Strokes go by a rule, "
                               "and nobody looked at them.")
                          : tr("No open doubts: this tab is done."));
        return;
    }
    const Doubt next = m_doubts_by_time ? nextInTime(doubts) : nextByWeight(doubts);
    // What else is in doubt of the same chord is looked at with it.
    m_selection.chooseStroke(next.note);
    std::vector<NoteId> together = m_selection.all();
    std::erase_if(together, [&](NoteId id) {
        const Doubt* doubt = m_derived.doubtOf(id);
        const bool of_stroke = doubt && doubt->kind == DoubtKind::Stroke;
        return !doubt || of_stroke != (next.kind == DoubtKind::Stroke);
    });
    m_selection.chooseAll(next.note, std::move(together));
    m_transport.pause();
    m_transport.seek(next.onset_s);
}

// The most urgent; pressed again on it, the next one down the list.
Doubt EditCommands::nextByWeight(const std::vector<Doubt>& doubts) const {
    auto at = std::ranges::find(doubts, m_selection.note(), &Doubt::note);
    while (at != doubts.end() && m_selection.isChosen(at->note))
        ++at;
    return at == doubts.end() ? doubts.front() : *at;
}

// The first after what is chosen, else after the playhead; after the last the first again.
Doubt EditCommands::nextInTime(const std::vector<Doubt>& doubts) const {
    const Note* note = m_document.piece().note(m_selection.note());
    const double from_s = note ? note->onset_s() : m_transport.playhead_s() - 1e-3;
    const auto earlier = [](const Doubt& a, const Doubt& b) { return a.onset_s < b.onset_s; };
    Doubt next = *std::ranges::min_element(doubts, earlier);
    bool found = false;
    for (const Doubt& doubt : doubts)
        if (doubt.onset_s >= from_s && !m_selection.isChosen(doubt.note) &&
            (!found || earlier(doubt, next))) {
            next = doubt;
            found = true;
        }
    return next;
}

void EditCommands::setDoubtsByTime(bool by_time) {
    if (by_time == m_doubts_by_time)
        return;
    m_doubts_by_time = by_time;
    emit doubtOrderChanged();
}

// From the first attack of what is chosen to its last end.
TimeRange EditCommands::passage() const {
    const Piece& piece = m_document.piece();
    std::optional<TimeRange> span;
    for (const NoteId id : m_selection.all())
        if (const Note* note = piece.note(id))
            span = span ? TimeRange{std::min(span->start_s, note->onset_s()),
                                    std::max(span->end_s, note->offset_s())}
                        : note->time.value;
    return span.value_or(TimeRange{});
}

void EditCommands::hearAgain() {
    if (chosen()) {
        const TimeRange span = passage();
        m_transport.playOnce({std::max(0.0, span.start_s - kLeadIn_s), span.end_s + 0.1});
    }
}

void EditCommands::loopSelection() {
    if (m_transport.loop()) {
        m_transport.setLoop({});
        return;
    }
    if (chosen()) {
        // A note on its own is too short to hear anything in: about a second around it.
        const TimeRange span = passage();
        const double pad = std::max(0.1, 0.5 * (1.2 - span.length_s()));
        m_transport.setLoop(TimeRange{std::max(0.0, span.start_s - pad), span.end_s + pad});
    }
}

void EditCommands::growLoopByNote() {
    const auto loop = m_transport.loop();
    if (!loop) {
        loopSelection();
        return;
    }
    for (const Note& note : m_document.piece().notes)
        if (note.offset_s() > loop->end_s + 0.01) {
            m_transport.setLoop(TimeRange{loop->start_s, note.offset_s()});
            return;
        }
    emit said(tr("The loop reaches the last note."));
}

void EditCommands::growLoopByBeat() {
    const auto loop = m_transport.loop();
    const auto& beats = m_document.piece().timeline.beats_s;
    if (!loop || beats.size() < 2) {
        emit said(loop ? tr("There are no beats yet.")
                       : tr("Make a loop first: drag, or press L on a note."));
        return;
    }
    const auto next = std::upper_bound(beats.begin(), beats.end(), loop->end_s + 0.01);
    if (next != beats.end())
        m_transport.setLoop(TimeRange{loop->start_s, *next});
}

void EditCommands::hearPart(SoundPart part) {
    if (part == m_transport.part()) {
        m_transport.setPart(SoundPart::All, 0);
        return;
    }
    const Note* note = chosen();
    if (!note)
        return;
    if (!m_document.media(m_transport.take())) {
        emit said(tr("There is no recording here to take apart."));
        return;
    }
    const NotePlan* plan = m_document.piece().plan(note->id);
    if (part == SoundPart::String && !(plan && plan->placed())) {
        emit said(tr("This note is on no string yet."));
        return;
    }
    m_transport.setPart(part, note->id);
}

void EditCommands::isolateAround() {
    ListenSettings listen = m_transport.listen();
    if (listen.band) {
        listen.band.reset();
    } else {
        constexpr int kAround = 4; // semitones
        const Note* note = m_document.piece().note(m_selection.note());
        const Instrument& instrument = m_document.piece().instrument;
        const int middle = note ? note->midi() : instrument.lowestMidi() + kAround;
        listen.band = ListenSettings::Band{middle - kAround, middle + kAround};
    }
    m_transport.setListen(listen);
}

void EditCommands::setDownbeat() {
    const Note* note = chosen();
    if (!note)
        return;
    const NoteId id = note->id;
    m_document.edit(
        tr("this note is one"),
        note->onset_s(),
        [id](PieceEditor& e) { return e.setDownbeat(id); },
        Resolve::WholePiece);
}

} // namespace wirenote::app
