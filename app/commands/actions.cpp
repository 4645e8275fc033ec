#include "app/commands/actions.h"

#include "app/commands/chord_commands.h"
#include "app/commands/dictation.h"
#include "app/commands/edit_commands.h"
#include "app/commands/playings.h"
#include "app/commands/pulse_commands.h"
#include "app/commands/questions.h"
#include "app/commands/stroke_keys.h"
#include "app/commands/take_commands.h"
#include "app/document/document.h"
#include "app/document/exporting.h"
#include "app/document/opening.h"
#include "app/document/selection.h"
#include "app/playing/transport.h"
#include "app/strip/time_view.h"
#include "app/text/playing_wording.h"
#include "app/text/wording.h"
#include "media/time_stretch.h"

#include <QActionGroup>
#include <algorithm>
#include <array>
#include <cmath>

namespace wirenote::app {
namespace {
constexpr double kNudge_s = 0.01;
constexpr double kZoomStep = 1.4;
constexpr double kBack_s = 2.0;
} // namespace

Actions::Actions(Document& document,
                 Selection& selection,
                 TimeView& time,
                 Transport& transport,
                 EditCommands& commands,
                 ChordCommands& chords,
                 TakeCommands& takes,
                 PulseCommands& pulse,
                 Questions& questions,
                 Playings& playings,
                 Dictation& dictation,
                 SheetCommands& sheet,
                 ReadingCommands& readings,
                 LessonCommands& lesson,
                 Opening& opening,
                 Exporting& exporting,
                 QWidget* window)
    : QObject(window), m_document(document), m_selection(selection), m_time(time),
      m_transport(transport), m_commands(commands), m_chords(chords), m_takes(takes),
      m_pulse(pulse), m_questions(questions), m_playings(playings), m_dictation(dictation),
      m_sheet(sheet), m_readings(readings), m_lesson(lesson), m_opening(opening),
      m_exporting(exporting), m_window(window) {
    connect(&document, &Document::opened, this, &Actions::refresh);
    connect(&document, &Document::changed, this, [this](const Changes& what) {
        if (what.notes || what.plans)
            refreshTicks();
    });
    connect(&selection, &Selection::changed, this, &Actions::refreshTicks);
}

QAction* Actions::make(const QString& text,
                       const QKeySequence& key,
                       std::function<void()> run,
                       bool needs_piece) {
    auto* action = new QAction(text, this);
    if (!key.isEmpty())
        action->setShortcut(key);
    action->setShortcutContext(Qt::WindowShortcut);
    connect(action, &QAction::triggered, this, [this, run] {
        run();
        refreshTicks(); // a refused wish ticks nothing
    });
    m_window->addAction(action);
    if (needs_piece) {
        m_needing_piece << action;
        action->setEnabled(false);
    }
    return action;
}

// A tick where it is so of the chosen note.
QAction* Actions::ticked(QAction* action, Tick is_so) {
    action->setCheckable(true);
    m_ticks.push_back({action, std::move(is_so)});
    return action;
}

void Actions::refreshTicks() {
    const Note* note = m_document.piece().note(m_selection.note());
    const NotePlan* plan = m_document.piece().plan(m_selection.note());
    for (const auto& [action, is_so] : m_ticks)
        action->setChecked(note && plan && is_so(*note, *plan));
}

QAction* Actions::only(QAction* action, std::vector<BenchKind> benches) {
    m_bench_keys.push_back({action, action->shortcuts(), std::move(benches)});
    return action;
}

QAction* Actions::notOn(QAction* action, BenchKind bench) {
    std::vector<BenchKind> benches;
    for (int i = 0; i < kBenchCount; ++i)
        if (static_cast<BenchKind>(i) != bench)
            benches.push_back(static_cast<BenchKind>(i));
    return only(action, std::move(benches));
}

void Actions::setBench(BenchKind bench) {
    for (const BenchKey& key : m_bench_keys)
        if (std::ranges::find(key.benches, bench) == key.benches.end())
            key.action->setShortcuts(QList<QKeySequence>{});
    for (const BenchKey& key : m_bench_keys)
        if (std::ranges::find(key.benches, bench) != key.benches.end())
            key.action->setShortcuts(key.keys);
}

void Actions::refresh() {
    for (QAction* action : m_needing_piece)
        action->setEnabled(m_document.isOpen());
}

void Actions::fill(QMenuBar& menus) {
    fillFile(*menus.addMenu(tr("&Piece")));
    fillEdit(*menus.addMenu(tr("&Edit")));
    m_note_menu = menus.addMenu(tr("&Note"));
    fillNote(*m_note_menu);
    fillListen(*menus.addMenu(tr("&Listen")));
    fillPulse(*menus.addMenu(tr("P&ulse")));
    fillTakes(*menus.addMenu(tr("&Takes")));
    fillSheet(*menus.addMenu(tr("&Sheet")));
    fillReadings(*menus.addMenu(tr("&Readings")));
    fillLesson(*menus.addMenu(tr("&Lesson")));
    fillView(*menus.addMenu(tr("&View")));
}

void Actions::fillFile(QMenu& menu) {
    menu.addAction(make(
        tr("Open a recording or a piece…"),
        QKeySequence::Open,
        [this] { m_opening.askAndOpen(); },
        false));
    menu.addAction(make(
        tr("Open the demo piece (simulated)"),
        {},
        [this] { emit m_opening.wanted({}, [this] { m_opening.openDemo(); }); },
        false));
    menu.addAction(make(tr("Add takes…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_O), [this] {
        m_opening.askAndAdd();
    }));
    menu.addAction(make(tr("Find the recording, or use another copy of it…"), {}, [this] {
        m_opening.askForRecording();
    }));
    menu.addSeparator();
    menu.addAction(make(tr("Save"), QKeySequence::Save, [this] { m_exporting.save(); }));
    menu.addAction(make(tr("Save as…"), QKeySequence::SaveAs, [this] { m_exporting.saveAs(); }));
    menu.addAction(make(
        tr("Export…"), QKeySequence(Qt::CTRL | Qt::Key_E), [this] { m_exporting.askAndExport(); }));
    menu.addSeparator();
    menu.addAction(make(
        tr("Quit"), QKeySequence::Quit, [this] { emit quitWanted(); }, false));
}

void Actions::fillEdit(QMenu& menu) {
    QAction* undo = m_document.undoStack().createUndoAction(this, tr("Undo"));
    disconnect(undo, &QAction::triggered, nullptr, nullptr); // the document may ask first
    connect(undo, &QAction::triggered, &m_document, &Document::undo);
    undo->setShortcut(QKeySequence::Undo);
    QAction* redo = m_document.undoStack().createRedoAction(this, tr("Redo"));
    redo->setShortcuts(
        {QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), QKeySequence(Qt::CTRL | Qt::Key_Y)});
    menu.addAction(undo);
    menu.addAction(redo);
    menu.addSeparator();
    EditCommands& c = m_commands;
    Questions& q = m_questions;
    menu.addAction(make(tr("Next doubt"), Qt::Key_N, [&c, &q] {
        if (!q.openNext())
            c.nextDoubt();
    }));
    menu.addAction(make(tr("Questions about the whole piece"),
                        QKeySequence(Qt::SHIFT | Qt::Key_N),
                        [&q] { q.openFirst(); }));
    QAction* leave = make(
        tr("Back to the notes"), Qt::Key_Escape, [&q] { q.leave(); }, false);
    leave->setEnabled(false);
    connect(&q, &Questions::changed, leave, [leave, &q] { leave->setEnabled(q.isOpen()); });
    menu.addAction(leave);
    QAction* by_time = make(
        tr("Doubts in the order of time"),
        {},
        [&c] { c.setDoubtsByTime(!c.doubtsByTime()); },
        false);
    by_time->setCheckable(true);
    connect(&c, &EditCommands::doubtOrderChanged, by_time, [by_time, &c] {
        by_time->setChecked(c.doubtsByTime());
    });
    by_time->setChecked(c.doubtsByTime());
    menu.addAction(by_time);
    menu.addSeparator();
    fillChoosing(menu);
}

void Actions::fillChoosing(QMenu& menu) {
    EditCommands& c = m_commands;
    PulseCommands& p = m_pulse;
    menu.addAction(make(tr("Next note"), Qt::Key_Right, [&c] { c.step(1); }));
    menu.addAction(make(tr("Note before"), Qt::Key_Left, [&c] { c.step(-1); }));
    menu.addAction(make(tr("Choose the next note too"),
                        QKeySequence(Qt::SHIFT | Qt::Key_Right),
                        [&c] { c.step(1, true); }));
    menu.addAction(make(tr("Choose the note before too"),
                        QKeySequence(Qt::SHIFT | Qt::Key_Left),
                        [&c] { c.step(-1, true); }));
    menu.addAction(make(tr("Choose its whole chord"),
                        QKeySequence(Qt::CTRL | Qt::Key_Space),
                        [this] { m_selection.chooseStroke(m_selection.note()); }));
    menu.addAction(
        make(tr("Choose the notes of the loop"), QKeySequence(Qt::CTRL | Qt::Key_A), [this] {
            m_selection.choosePassage(
                m_transport.loop().value_or(TimeRange{0.0, m_document.length_s() + 1.0}));
        }));
    menu.addAction(make(tr("Choose all like this"),
                        QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_A),
                        [this] { m_selection.chooseAlike(m_selection.note()); }));
    menu.addAction(make(tr("Choose its phrase"),
                        QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Space),
                        [&p] { p.choosePhrase(); }));
}

void Actions::fillNote(QMenu& menu) {
    EditCommands& c = m_commands;
    Questions& q = m_questions;
    // Where a question is open, its choices stand in the place of strings.
    menu.addAction(make(
        tr("Hear the note again"), Qt::Key_H, [&c, &q] { q.isOpen() ? q.hear() : c.hearAgain(); }));
    QAction* accept =
        make(tr("It is right"), Qt::Key_Return, [&c, &q] { q.isOpen() ? q.accept() : c.accept(); });
    accept->setShortcuts({QKeySequence(Qt::Key_Return), QKeySequence(Qt::Key_Enter)});
    menu.addAction(accept);
    menu.addSeparator();
    fillPlaces(menu);
    fillChord(menu);
    menu.addAction(make(tr("Fret up"), Qt::Key_Up, [&c] { c.changeFret(1); }));
    menu.addAction(make(tr("Fret down"), Qt::Key_Down, [&c] { c.changeFret(-1); }));
    menu.addAction(
        make(tr("Pitch up"), QKeySequence(Qt::SHIFT | Qt::Key_Up), [&c] { c.changePitch(1); }));
    menu.addAction(make(
        tr("Pitch down"), QKeySequence(Qt::SHIFT | Qt::Key_Down), [&c] { c.changePitch(-1); }));
    menu.addAction(make(tr("Octave up"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Up), [&c] {
        c.changePitch(12);
    }));
    menu.addAction(make(tr("Octave down"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Down), [&c] {
        c.changePitch(-12);
    }));
    menu.addSeparator();
    menu.addAction(make(tr("Start earlier"),
                        QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Left),
                        [&c] { c.moveStart(-kNudge_s); }));
    menu.addAction(make(tr("Start later"),
                        QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Right),
                        [&c] { c.moveStart(kNudge_s); }));
    menu.addAction(make(tr("End earlier"), QKeySequence(Qt::CTRL | Qt::Key_Left), [&c] {
        c.moveEnd(-2 * kNudge_s);
    }));
    menu.addAction(make(tr("End later"), QKeySequence(Qt::CTRL | Qt::Key_Right), [&c] {
        c.moveEnd(2 * kNudge_s);
    }));
    menu.addSeparator();
    menu.addAction(make(tr("Split here"), Qt::Key_S, [&c] { c.split(); }));
    menu.addAction(make(tr("Join with the next note"), Qt::Key_J, [&c] { c.joinWithNext(); }));
    menu.addAction(
        make(tr("Take the note nearly heard here"), Qt::Key_V, [&c] { c.takeNearestMiss(); }));
    menu.addAction(
        notOn(make(tr("Add a note here"), Qt::Key_A, [&c] { c.addHere(); }), BenchKind::Strokes));
    menu.addAction(make(tr("A slip of the performer, or not"), Qt::Key_F, [&c] { c.markSlip(); }));
    menu.addAction(make(tr("Delete"), Qt::Key_Delete, [&c] { c.remove(); }));
    menu.addSeparator();
    fillHands(menu);
    menu.addSeparator();
    fillSayings(menu);
}

// Where it lies. Where a question is open, its choices stand in the place of strings.
void Actions::fillPlaces(QMenu& menu) {
    EditCommands& c = m_commands;
    Questions& q = m_questions;
    QMenu& strings = *menu.addMenu(tr("On string"));
    for (int s = 1; s <= 7; ++s)
        strings.addAction(make(tr("String %1").arg(s), QKeySequence(Qt::Key_0 + s), [&c, &q, s] {
            q.isOpen() ? q.choose(s - 1) : c.moveToString(s);
        }));
    strings.addSeparator();
    for (const auto& [first, last] :
         {std::pair{1, 2}, {1, 3}, {2, 3}, {2, 4}, {3, 4}, {3, 5}, {4, 5}, {4, 6}, {5, 6}})
        strings.addAction(make(tr("Strings %1 to %2").arg(first).arg(last),
                               {},
                               [&c, first = first, last = last] { c.toStrings(first, last); }));
    QMenu& positions = *menu.addMenu(tr("In position"));
    for (const int fret : {1, 2, 3, 5, 7, 9, 10, 12})
        positions.addAction(make(positionText(fret), {}, [&c, fret] { c.toPosition(fret); }));
}

void Actions::fillChord(QMenu& menu) {
    ChordCommands& chords = m_chords;
    QMenu& chord = *menu.addMenu(tr("Its chord"));
    chord.addAction(notOn(make(tr("Put right from where it was heard whole"),
                               Qt::Key_G,
                               [&chords] { chords.fill(ChordCommands::Where::Here); }),
                          BenchKind::Strokes));
    chord.addAction(make(tr("The same wherever it comes again"),
                         QKeySequence(Qt::SHIFT | Qt::Key_G),
                         [&chords] { chords.fill(ChordCommands::Where::WhereverItComesAgain); }));
    chord.addAction(
        make(tr("Name it, or write what is held"), QKeySequence(Qt::CTRL | Qt::Key_G), [this] {
            m_selection.chooseStroke(m_selection.note());
            emit gripWanted();
        }));
}

// What the hands do at the chosen note.
void Actions::fillHands(QMenu& menu) {
    EditCommands& c = m_commands;
    QMenu& fingers = *menu.addMenu(tr("Finger"));
    static constexpr std::array<Finger, 6> kFingers = {
        Finger::Open, Finger::Index, Finger::Middle, Finger::Ring, Finger::Little, Finger::Thumb};
    for (std::size_t i = 0; i < kFingers.size(); ++i)
        fingers.addAction(
            ticked(make(fingerText(kFingers[i]),
                        i < 5 ? QKeySequence(Qt::ALT | (Qt::Key_0 + static_cast<int>(i)))
                              : QKeySequence(Qt::ALT | Qt::Key_T),
                        [&c, finger = kFingers[i]] { c.setFinger(finger); }),
                   [finger = kFingers[i]](const Note&, const NotePlan& plan) {
                       return plan.finger.value == finger;
                   }));
    QMenu& strokes = *menu.addMenu(tr("Stroke"));
    for (const auto& [stroke, key] : strokeKeys()) {
        QAction* action = ticked(
            make(strokeText(stroke), key, [&c, s = stroke] { c.setStroke(s); }),
            [s = stroke](const Note&, const NotePlan& plan) { return plan.stroke.value == s; });
        if (stroke == Stroke::A || stroke == Stroke::C ||
            stroke == Stroke::Ghost) // their letters mean other things elsewhere
            only(action, {BenchKind::Strokes});
        strokes.addAction(action);
    }
    strokes.addSeparator();
    for (const PluckingTool tool : {PluckingTool::Pick, PluckingTool::Fingers, PluckingTool::Both})
        strokes.addAction(
            make(tr("All of it: %1").arg(toolText(tool)), {}, [&c, tool] { c.playWith(tool); }));
    QMenu& techniques = *menu.addMenu(tr("Technique"));
    for (const Technique t :
         {Technique::HammerOn, Technique::PullOff,  Technique::Slide,    Technique::Vibrato,
          Technique::Bend,     Technique::PalmMute, Technique::Staccato, Technique::LetRing,
          Technique::Dead,     Technique::Accent,   Technique::Harmonic, Technique::PreBend,
          Technique::Release,  Technique::Grace,    Technique::Trill,    Technique::Tremolo,
          Technique::Roll,     Technique::Rake,     Technique::Tap,      Technique::GhostStroke})
        techniques.addAction(
            ticked(make(techniqueText(t), {}, [&c, t] { c.toggleTechnique(t); }),
                   [t](const Note& note, const NotePlan&) { return note.has(t); }));
}

void Actions::fillListen(QMenu& menu) {
    EditCommands& c = m_commands;
    Transport& t = m_transport;
    menu.addAction(make(tr("Play or stop"), Qt::Key_Space, [&t] { t.toggle(); }));
    menu.addAction(
        make(tr("Loop the note, or stop looping"), Qt::Key_L, [&c] { c.loopSelection(); }));
    menu.addAction(make(tr("Take, tab or both"), Qt::Key_T, [&t] {
        t.setListening(static_cast<Listening>((static_cast<int>(t.listening()) + 1) % 3));
    }));
    menu.addAction(make(tr("Again from a bit earlier"), Qt::Key_B, [&t] { t.back(kBack_s); }));
    menu.addSeparator();
    const auto speed = [&t](double percent) {
        ListenSettings listen = t.listen();
        const double wanted = percent == 0.0 ? 1.0 : listen.speed + percent / 100.0;
        listen.speed = std::clamp(std::round(20.0 * wanted) / 20.0, kSlowest, kFastest);
        t.setListen(listen);
    };
    menu.addAction(make(tr("Slower"), Qt::Key_Comma, [speed] { speed(-5); }));
    menu.addAction(make(tr("Faster"), Qt::Key_Period, [speed] { speed(5); }));
    menu.addAction(make(tr("As fast as recorded"), Qt::Key_Slash, [speed] { speed(0); }));
    menu.addAction(make(tr("Only these pitches, or all"), Qt::Key_R, [&c] { c.isolateAround(); }));
    menu.addAction(
        make(tr("Without the drums, or with them"), QKeySequence(Qt::SHIFT | Qt::Key_R), [&t] {
            ListenSettings listen = t.listen();
            listen.without_drums = !listen.without_drums;
            t.setListen(listen);
        }));
    menu.addAction(make(tr("Only the chosen note, or everything"), Qt::Key_O, [&c] {
        c.hearPart(SoundPart::Note);
    }));
    menu.addAction(make(
        tr("Only its string, or everything"), Qt::Key_Y, [&c] { c.hearPart(SoundPart::String); }));
    menu.addAction(notOn(make(tr("Everything but the chosen note"),
                              Qt::Key_C,
                              [&c] { c.hearPart(SoundPart::AllButNote); }),
                         BenchKind::Strokes));
    fillDictation(*menu.addMenu(tr("Dictate, stroke by stroke")));
    menu.addAction(make(tr("Click on or off"), Qt::Key_K, [&t] {
        ListenSettings listen = t.listen();
        listen.click = !listen.click;
        t.setListen(listen);
    }));
    menu.addAction(make(tr("Loop one note more"), QKeySequence(Qt::SHIFT | Qt::Key_L), [&c] {
        c.growLoopByNote();
    }));
    menu.addAction(make(tr("Loop one beat more"), QKeySequence(Qt::CTRL | Qt::Key_L), [&c] {
        c.growLoopByBeat();
    }));
    menu.addSeparator();
    menu.addAction(make(tr("To the first note"), Qt::Key_Home, [&c] { c.stepToTheFirst(); }));
}

void Actions::fillDictation(QMenu& menu) {
    Dictation& d = m_dictation;
    QAction* next =
        make(tr("The next"), QKeySequence(Qt::SHIFT | Qt::Key_Space), [&d] { d.sound(1); });
    next->setShortcuts({QKeySequence(Qt::SHIFT | Qt::Key_Space), QKeySequence(Qt::Key_MediaNext)});
    menu.addAction(next);
    QAction* before = make(
        tr("The one before"), QKeySequence(Qt::SHIFT | Qt::Key_Backspace), [&d] { d.sound(-1); });
    before->setShortcuts(
        {QKeySequence(Qt::SHIFT | Qt::Key_Backspace), QKeySequence(Qt::Key_MediaPrevious)});
    menu.addAction(before);
    menu.addAction(
        make(tr("The same again"), QKeySequence(Qt::ALT | Qt::Key_H), [&d] { d.sound(0); }));
    QAction* singly =
        make(tr("Note by note, not chord by chord"), {}, [&d] { d.setSingly(!d.singly()); });
    singly->setCheckable(true);
    menu.addAction(singly);
}

void Actions::fillPulse(QMenu& menu) {
    EditCommands& c = m_commands;
    PulseCommands& p = m_pulse;
    menu.addAction(make(tr("Tap the beat"), Qt::Key_Z, [&p] { p.tap(); }));
    menu.addAction(make(
        tr("This note is “one”"), QKeySequence(Qt::CTRL | Qt::Key_1), [&c] { c.setDownbeat(); }));
    menu.addAction(make(tr("Twice as slow"), {}, [&p] { p.twiceAsSlow(); }));
    menu.addAction(make(tr("Twice as fast"), {}, [&p] { p.twiceAsFast(); }));
    menu.addAction(
        make(tr("Place the beat at the playhead"), QKeySequence(Qt::SHIFT | Qt::Key_Z), [this] {
            const auto& beats = m_document.piece().timeline.beats_s;
            const double at_s = m_transport.playhead_s();
            const auto near = std::ranges::min_element(
                beats, {}, [at_s](double t) { return std::abs(t - at_s); });
            if (near != beats.end())
                m_pulse.pinBeat(static_cast<int>(near - beats.begin()), at_s);
        }));
    menu.addSeparator();
    menu.addAction(make(tr("Next part"), Qt::Key_BracketRight, [&p] { p.goToPart(1); }));
    menu.addAction(make(tr("Part before"), Qt::Key_BracketLeft, [&p] { p.goToPart(-1); }));
    menu.addAction(
        make(tr("Loop this part, or stop looping"), Qt::Key_Backslash, [&p] { p.loopPart(); }));
    menu.addAction(make(tr("Keep the form found as sections"), {}, [&p] { p.keepForm(); }));
    menu.addAction(make(tr("The loop is a section"), {}, [&p] { p.loopIsSection(); }));
    menu.addAction(make(tr("Decide the same in all repeats"),
                        QKeySequence(Qt::CTRL | Qt::Key_Return),
                        [&p] { p.sameInRepeats(); }));
}

void Actions::fillTakes(QMenu& menu) {
    TakeCommands& takes = m_takes;
    Transport& t = m_transport;
    menu.addAction(make(tr("Next take, same place"), Qt::Key_X, [this, &t] {
        const std::size_t count = m_document.piece().takes.size();
        if (count > 0)
            t.setTake((t.take() + 1) % count);
    }));
    menu.addAction(
        make(tr("Hear the notes of the loop or the take"), Qt::Key_E, [&takes] { takes.hear(); }));
    menu.addAction(
        make(tr("Keep the loop only, or all of it"), {}, [&takes] { takes.trimToLoop(); }));
    menu.addAction(make(tr("In the loop somebody talks"),
                        QKeySequence(Qt::CTRL | Qt::Key_T),
                        [&takes] { takes.loopIs(SoundKind::Talk); }));
    menu.addAction(make(tr("In the loop somebody plays"),
                        QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_T),
                        [&takes] { takes.loopIs(SoundKind::Playing); }));
    QMenu& kinds = *menu.addMenu(tr("In the loop is…"));
    for (const SoundKind kind :
         {SoundKind::TalkOverPlaying, SoundKind::CountIn, SoundKind::Noise, SoundKind::Silence})
        kinds.addAction(make(soundKindText(kind), {}, [&takes, kind] { takes.loopIs(kind); }));
    menu.addSeparator();
    menu.addAction(
        make(tr("Line up by sound"), {}, [&takes, &t] { takes.lineUpBySound(t.take()); }));
    Playings& playings = m_playings;
    menu.addAction(make(tr("Next playing of this place, slow ones first"),
                        QKeySequence(Qt::SHIFT | Qt::Key_X),
                        [&playings] { playings.hearNext(); }));
    menu.addAction(make(tr("This playing counts, or not"),
                        QKeySequence(Qt::CTRL | Qt::Key_D),
                        [&playings] { playings.toggleLearn(); }));
    menu.addAction(make(tr("Write the bar or the loop down as this playing has it"),
                        QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_D),
                        [&playings] { playings.followHere(); }));
    menu.addAction(make(tr("Loop what is played, without the talk"),
                        QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_L),
                        [&playings] { playings.loopPlaying(); }));
    menu.addAction(only(make(tr("Next list: playings, variants, bars"),
                             Qt::Key_Semicolon,
                             [this] { emit nextListWanted(); }),
                        {BenchKind::Takes}));
    menu.addAction(
        make(tr("Hear what every take shows"), {}, [&playings] { playings.recognise(); }));
    menu.addAction(make(tr("Mark this moment"), Qt::Key_Q, [&takes] { takes.markMoment(); }));
    menu.addAction(make(tr("Take earlier"), QKeySequence(Qt::ALT | Qt::Key_Left), [&takes, &t] {
        takes.shift(t.take(), -kNudge_s);
    }));
    menu.addAction(make(tr("Take later"), QKeySequence(Qt::ALT | Qt::Key_Right), [&takes, &t] {
        takes.shift(t.take(), kNudge_s);
    }));
    menu.addSeparator();
    menu.addAction(make(tr("Next picture"), QKeySequence(Qt::CTRL | Qt::Key_Period), [this] {
        emit pictureStepWanted(1);
    }));
    menu.addAction(make(tr("Picture before"), QKeySequence(Qt::CTRL | Qt::Key_Comma), [this] {
        emit pictureStepWanted(-1);
    }));
}

void Actions::fillView(QMenu& menu) {
    QAction* right = make(tr("Write it as meant: slips put right"), {}, [this] {
        m_document.putSlipsRight(!m_document.slipsPutRight());
    });
    right->setCheckable(true);
    connect(&m_document, &Document::writingChanged, right, [this, right] {
        right->setChecked(m_document.slipsPutRight());
    });
    connect(&m_document, &Document::opened, right, [right] { right->setChecked(false); });
    menu.addAction(right);
    menu.addAction(make(tr("How stiff every note sounds, or the strip"), Qt::Key_8, [this] {
        emit stiffnessWanted();
    }));
    menu.addAction(make(tr("Overtones of the note (partials), or without"), Qt::Key_9, [this] {
        emit partialsWanted();
    }));
    menu.addAction(make(tr("The film beside the notes, or without"),
                        QKeySequence(Qt::CTRL | Qt::Key_9),
                        [this] { emit filmWanted(); }));
    menu.addAction(make(tr("Look at the film"), {}, [this] { emit filmLookWanted(); }));
    menu.addAction(make(
        tr("Give the neck of the film, or use it as it lies"), {}, [this] { emit neckWanted(); }));
    menu.addAction(make(tr("Show places by clicks on the film, or no longer"),
                        QKeySequence(Qt::CTRL | Qt::Key_8),
                        [this] { emit placesWanted(); }));
    fillNeck(*menu.addMenu(tr("On the neck, under the hand")));
    menu.addSeparator();
    TimeView& time = m_time;
    const auto middle = [this] {
        const double head = m_transport.playhead_s();
        const TimeView& v = m_time;
        return head >= v.start_s() && head <= v.end_s() ? head : v.start_s() + v.span_s() / 2.0;
    };
    QAction* closer =
        make(tr("Closer"), Qt::Key_Plus, [&time, middle] { time.zoom(kZoomStep, middle()); });
    closer->setShortcuts({QKeySequence(Qt::Key_Plus), QKeySequence(Qt::Key_Equal)});
    menu.addAction(closer);
    menu.addAction(make(
        tr("Farther"), Qt::Key_Minus, [&time, middle] { time.zoom(1.0 / kZoomStep, middle()); }));
    menu.addAction(make(tr("The whole take"), Qt::Key_W, [&time] { time.showAll(); }));
    menu.addAction(
        make(tr("Page back"), Qt::Key_PageUp, [&time] { time.pan(-0.8 * time.span_s()); }));
    menu.addAction(
        make(tr("Page on"), Qt::Key_PageDown, [&time] { time.pan(0.8 * time.span_s()); }));
    fillColours(*menu.addMenu(tr("Colours")));
    menu.addSeparator();
    for (int i = 0; i < kBenchCount; ++i)
        menu.addAction(make(
            Rail::nameOf(static_cast<BenchKind>(i)),
            QKeySequence(Qt::Key_F1 + i),
            [this, i] { emit benchWanted(static_cast<BenchKind>(i)); },
            false));
}

// What of harmony lies under the hand on the neck; one key goes through all of it.
void Actions::fillNeck(QMenu& menu) {
    auto* group = new QActionGroup(this);
    const std::array<QString, kNeckHarmonies> names = {tr("The hand alone"),
                                                       tr("Notes of the scale"),
                                                       tr("Degrees of the scale"),
                                                       tr("Notes of the chord"),
                                                       tr("Degrees of the chord")};
    for (int i = 0; i < kNeckHarmonies; ++i) {
        QAction* action = make(names[static_cast<std::size_t>(i)], {}, [this, i] {
            emit neckHarmonyWanted(static_cast<NeckHarmony>(i));
        });
        action->setCheckable(true);
        action->setChecked(i == 0);
        group->addAction(action);
        menu.addAction(action);
    }
    menu.addSeparator();
    menu.addAction(make(tr("The next of these"), QKeySequence(Qt::CTRL | Qt::Key_7), [group] {
        const auto all = group->actions();
        all[(all.indexOf(group->checkedAction()) + 1) % all.size()]->trigger();
    }));
}

// Which colours the next start has.
void Actions::fillColours(QMenu& menu) {
    auto* group = new QActionGroup(this);
    const std::array<std::pair<Colours, QString>, 3> all = {
        {{Colours::Desktop, tr("As the desktop")},
         {Colours::Light, tr("Light")},
         {Colours::Dark, tr("Dark")}}};
    for (const auto& [colours, name] : all) {
        QAction* action = make(
            name, {}, [this, c = colours] { emit coloursWanted(c); }, false);
        action->setCheckable(true);
        action->setData(static_cast<int>(colours));
        group->addAction(action);
        menu.addAction(action);
    }
    connect(&menu, &QMenu::aboutToShow, group, [this, group] {
        for (QAction* action : group->actions())
            action->setChecked(action->data().toInt() == static_cast<int>(m_colours));
    });
}

void Actions::showNoteMenu(QPoint global) {
    if (m_note_menu && m_document.isOpen())
        m_note_menu->popup(global);
}

} // namespace wirenote::app
