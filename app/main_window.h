#pragma once

#include "app/banner.h"
#include "app/benches/bench_lanes.h"
#include "app/commands/actions.h"
#include "app/commands/chord_commands.h"
#include "app/commands/dictation.h"
#include "app/commands/edit_commands.h"
#include "app/commands/film_commands.h"
#include "app/commands/lesson_commands.h"
#include "app/commands/playings.h"
#include "app/commands/pulse_commands.h"
#include "app/commands/questions.h"
#include "app/commands/reading_commands.h"
#include "app/commands/sheet_commands.h"
#include "app/commands/stroke_commands.h"
#include "app/commands/take_commands.h"
#include "app/document/derived.h"
#include "app/document/document.h"
#include "app/document/exporting.h"
#include "app/document/job_runner.h"
#include "app/document/journal_keeper.h"
#include "app/document/kept_work.h"
#include "app/document/lesson_book.h"
#include "app/document/opening.h"
#include "app/document/selection.h"
#include "app/playing/transport.h"
#include "app/rail.h"
#include "app/strip/strip_view.h"
#include "app/strip/take_sounds.h"
#include "app/strip/time_view.h"

#include <QMainWindow>
#include <QSettings>
#include <QStackedWidget>

class QVBoxLayout;

namespace wirenote::app {

class FilmPane;
class SheetView;

// Puts the parts together and shows them; every part does its own work.
class MainWindow : public QMainWindow {
    Q_OBJECT
  public:
    // `device` may be null: then the simulated sound device is used and the window says so.
    // What must outlive a crash is kept in `state_folder`.
    MainWindow(QSettings& settings,
               std::unique_ptr<SoundOutput> device,
               const std::filesystem::path& state_folder);
    ~MainWindow() override;

    // The system wants the program to end: everything is kept, nothing is asked.
    void leaveKeeping();
    void keepNow(); // returns when all that was done is on the disk

    void restoreLast(); // the piece that was open when the program ended
    void openPath(const QString& path);
    void openPaths(const QStringList& paths); // the first, the others as its takes
    void openDemo();
    void showBench(BenchKind kind);

    Document& document() { return m_document; }
    Opening& opening() { return m_opening; }
    Exporting& exporting() { return m_exporting; }
    Selection& selection() { return m_selection; }
    Transport& transport() { return m_transport; }
    TakeCommands& takes() { return m_takes; }
    FilmCommands& film() { return m_film_commands; }
    EditCommands& commands() { return m_commands; }
    ChordCommands& chords() { return m_chords; }
    PulseCommands& pulse() { return m_pulse; }
    Questions& questions() { return m_questions; }
    Playings& playings() { return m_playings; }
    Derived& derived() { return m_derived; }
    JobRunner& jobs() { return m_jobs; }
    ReadingCommands& readings() { return m_readings; }
    LessonBook& lessonBook() { return m_lesson_book; }
    LessonCommands& lesson() { return m_lesson; }
    KeptWork& keptWork() { return m_kept; }
    StripView& strip() { return *m_strip; }

  protected:
    void closeEvent(QCloseEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

  private:
    void build();
    QWidget* buildNeck();
    QWidget* buildStrokes();
    QWidget* buildWork();
    QWidget* buildNoteSide(QWidget* why);
    QWidget* buildTakeSide();
    QWidget* buildPulseSide();
    QWidget* buildSheetSide();
    QWidget* buildListening();
    QWidget* buildReadings();
    QWidget* buildLessonSide();
    void addPages(QVBoxLayout& column);
    void connectTakes();
    void connectDocument();
    void connectActions();
    void afterOpening();
    void showTitle();
    void showFilm();
    void showSide();
    void askAboutUndoing(const QString& step);
    bool mayLeave(); // asks to save what is not saved

    QSettings& m_settings;
    std::filesystem::path m_state_folder;
    Document m_document;
    Derived m_derived; // before what asks it
    Selection m_selection;
    TimeView m_time;
    TakeSounds m_sounds;
    Transport m_transport;
    EditCommands m_commands;
    StrokeCommands m_stroke_commands;
    SheetCommands m_sheet_commands;
    ChordCommands m_chords;
    JobRunner m_jobs;
    ReadingCommands m_readings;
    LessonBook m_lesson_book;
    LessonCommands m_lesson;
    TakeCommands m_takes;
    FilmCommands m_film_commands;
    PulseCommands m_pulse;
    Questions m_questions;
    Playings m_playings;
    Dictation m_dictation;
    Banner* m_banner; // before the parts that speak through it
    JournalKeeper m_keeper;
    KeptWork m_kept;
    Opening m_opening;
    Exporting m_exporting;
    BenchLanes m_lanes;
    Actions m_actions;
    Rail* m_rail = nullptr;
    StripView* m_strip = nullptr;
    SheetView* m_sheet = nullptr;
    QWidget* m_neck = nullptr;
    QWidget* m_hand = nullptr;
    FilmPane* m_film = nullptr;
    QWidget* m_listening = nullptr; // film and listening panel
    QWidget* m_span = nullptr;
    QWidget* m_differences = nullptr; // lists of the Readings bench
    QWidget* m_lesson_pages = nullptr;
    QWidget* m_strokes = nullptr;
    QStackedWidget* m_side = nullptr;   // why, take or pulse card
    QStackedWidget* m_centre = nullptr; // strip or sheet
    QStackedWidget* m_pages = nullptr;  // empty state or work
    bool m_leaving = false;             // without asking
};

} // namespace wirenote::app
