#pragma once

#include "app/benches/neck/neck_harmony.h"
#include "app/rail.h"
#include "app/theme.h"
#include "piece/note.h"

#include <QAction>
#include <QMenuBar>
#include <QObject>
#include <functional>
#include <utility>
#include <vector>

namespace wirenote::app {

class Dictation;
class Document;
class ChordCommands;
class EditCommands;
class LessonCommands;
class Playings;
class PulseCommands;
class Questions;
class Selection;
class ReadingCommands;
class SheetCommands;
class TakeCommands;
class TimeView;
class Transport;

class Exporting;
class Opening;

// Every action with its key, and the menus that list them. One-handed: the left hand stays on the
// neck.
class Actions : public QObject {
    Q_OBJECT
  public:
    Actions(Document& document,
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
            QWidget* window);
    void fill(QMenuBar& menus);
    // A key may mean one thing on one bench and another on the next: it is live, and stands in the
    // menu, where it counts.
    void setBench(BenchKind bench);
    void showNoteMenu(QPoint global);                         // the Note menu, where it is wanted
    void setColours(Colours colours) { m_colours = colours; } // that are chosen

  signals:
    void historyWanted(); // of the chosen note
    void previewWanted(); // of the lesson
    void promptWanted();
    void packWanted();
    void benchWanted(BenchKind kind);
    void quitWanted();
    void neckHarmonyWanted(NeckHarmony what); // under the hand on the neck
    void stiffnessWanted();                   // the stiffness of the whole take, or the strip again
    void nextListWanted();                    // of those under the takes
    void gripWanted();                        // to write what is held
    void filmWanted();                        // beside the notes, or away with it
    void filmLookWanted();
    void neckWanted();     // to give the neck of the film, or to use it as the points lie
    void placesWanted();   // to show places by clicks on the film, or no longer
    void partialsWanted(); // of the chosen note, or away with them
    void pictureStepWanted(int pictures);
    void coloursWanted(Colours colours);

  private:
    QAction* make(const QString& text,
                  const QKeySequence& key,
                  std::function<void()> run,
                  bool needs_piece = true);
    void fillNeck(QMenu& menu);
    void fillFile(QMenu& menu);
    void fillEdit(QMenu& menu);
    void fillNote(QMenu& menu);
    void fillChoosing(QMenu& menu);
    void fillPlaces(QMenu& menu);
    void fillChord(QMenu& menu);
    void fillHands(QMenu& menu);
    void fillListen(QMenu& menu);
    void fillDictation(QMenu& menu);
    void fillPulse(QMenu& menu);
    void fillTakes(QMenu& menu);
    void fillSheet(QMenu& menu);
    void askForMark();
    void fillReadings(QMenu& menu);
    void fillLesson(QMenu& menu);
    void fillSayings(QMenu& menu);
    void fillView(QMenu& menu);
    void fillColours(QMenu& menu);
    using Tick = std::function<bool(const Note&, const NotePlan&)>;
    QAction* ticked(QAction* action, Tick is_so);
    void refreshTicks();
    QAction* only(QAction* action, std::vector<BenchKind> benches);
    QAction* notOn(QAction* action, BenchKind bench);
    void refresh();

    Document& m_document;
    Selection& m_selection;
    TimeView& m_time;
    Transport& m_transport;
    EditCommands& m_commands;
    ChordCommands& m_chords;
    TakeCommands& m_takes;
    PulseCommands& m_pulse;
    Questions& m_questions;
    Playings& m_playings;
    Dictation& m_dictation;
    SheetCommands& m_sheet;
    ReadingCommands& m_readings;
    LessonCommands& m_lesson;
    Opening& m_opening;
    Exporting& m_exporting;
    QWidget* m_window;
    std::vector<std::pair<QAction*, Tick>> m_ticks;
    QMenu* m_note_menu = nullptr;
    Colours m_colours = Colours::Desktop;
    QList<QAction*> m_needing_piece;
    struct BenchKey {
        QAction* action;
        QList<QKeySequence> keys;
        std::vector<BenchKind> benches; // where they are live
    };
    std::vector<BenchKey> m_bench_keys;
};

} // namespace wirenote::app
