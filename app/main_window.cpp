#include "app/main_window.h"

#include "app/benches/film/film_pane.h"
#include "app/benches/lesson/lesson_card.h"
#include "app/benches/lesson/lesson_pages.h"
#include "app/benches/lesson/prompt_view.h"
#include "app/benches/neck/hand_card.h"
#include "app/benches/neck/neck_view.h"
#include "app/benches/notes/chord_card.h"
#include "app/benches/notes/span_card.h"
#include "app/benches/notes/stiffness_map.h"
#include "app/benches/notes/why_card.h"
#include "app/benches/pulse/form_card.h"
#include "app/benches/pulse/pulse_card.h"
#include "app/benches/question_card.h"
#include "app/benches/readings/decisions_list.h"
#include "app/benches/readings/differences_list.h"
#include "app/benches/readings/licks_list.h"
#include "app/benches/readings/open_list.h"
#include "app/benches/readings/paper_view.h"
#include "app/benches/readings/reading_card.h"
#include "app/benches/readings/review_list.h"
#include "app/benches/sheet/piece_card.h"
#include "app/benches/sheet/sheet_card.h"
#include "app/benches/sheet/sheet_view.h"
#include "app/benches/strokes/strokes_card.h"
#include "app/benches/takes/instrument_card.h"
#include "app/benches/takes/picture_view.h"
#include "app/benches/takes/played_list.h"
#include "app/benches/takes/take_card.h"
#include "app/desktop_colours.h"
#include "app/field_guard.h"
#include "app/folding.h"
#include "app/playing/listen_panel.h"
#include "app/screen_room.h"
#include "app/strip/map_view.h"
#include "app/text/wording.h"
#include "app/top_bar.h"
#include "app/welcome.h"

#include <QApplication>
#include <QCloseEvent>
#include <QDragEnterEvent>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QMessageBox>
#include <QMimeData>
#include <QTabWidget>
#include <QTreeWidget>
#include <algorithm>

namespace wirenote::app {
namespace {

enum Centre { CentreStrip, CentreSheet, CentreStiffness };
enum Side { SideWhy, SideTake, SidePulse, SidePiece, SideQuestion, SideReadings, SideLesson };
constexpr int kSideWidth = 330;
constexpr int kRailWidth = 96;
constexpr QSize kLeastSize(640, 420);
constexpr QSize kUsualSize(1280, 800);
constexpr int kNeckHeight = 190;
constexpr int kTabsHeight = 270; // of what lies under the takes
constexpr int kLowStrip = 210;   // under a large film
constexpr int kLowNeck = 125;    // beside a film, which needs the room

// Parts one under another, without a margin of their own.
QVBoxLayout* columnIn(QWidget* holder) {
    auto* column = new QVBoxLayout(holder);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    return column;
}

} // namespace

MainWindow::MainWindow(QSettings& settings,
                       std::unique_ptr<SoundOutput> device,
                       const std::filesystem::path& state_folder)
    : m_settings(settings), m_state_folder(state_folder), m_derived(m_document),
      m_selection(m_document), m_sounds(m_document),
      m_transport(m_document, m_sounds, std::move(device)),
      m_commands(m_document, m_selection, m_derived, m_time, m_transport),
      m_stroke_commands(m_document, m_selection),
      m_sheet_commands(m_document, m_selection, m_transport),
      m_chords(m_document, m_selection, m_derived),
      m_readings(m_document, m_selection, m_derived, m_transport, m_jobs),
      m_lesson_book(m_document), m_lesson(m_document, m_lesson_book, m_transport, m_jobs),
      m_takes(m_document, m_transport, m_jobs), m_film_commands(m_document, m_selection, m_jobs),
      m_pulse(m_document, m_selection, m_transport, m_derived),
      m_questions(m_document, m_derived, m_selection, m_transport, m_takes),
      m_playings(m_document, m_transport, m_jobs),
      m_dictation(m_document, m_selection, m_transport), m_banner(new Banner(m_jobs, this)),
      m_keeper(m_document, state_folder / "kept"), m_kept(m_document, m_keeper, *m_banner, this),
      m_opening(m_document, m_takes, m_transport, m_jobs, *m_banner, this),
      m_exporting(m_document, m_derived, *m_banner, this), m_lanes(m_document,
                                                                   m_selection,
                                                                   m_derived,
                                                                   m_transport,
                                                                   m_sounds,
                                                                   m_commands,
                                                                   m_stroke_commands,
                                                                   m_chords,
                                                                   m_pulse,
                                                                   m_takes,
                                                                   m_lesson_book,
                                                                   m_lesson),
      m_actions(m_document,
                m_selection,
                m_time,
                m_transport,
                m_commands,
                m_chords,
                m_takes,
                m_pulse,
                m_questions,
                m_playings,
                m_dictation,
                m_sheet_commands,
                m_readings,
                m_lesson,
                m_opening,
                m_exporting,
                this) {
    setWindowTitle(tr("Wirenote"));
    setAcceptDrops(true);
    qApp->installEventFilter(new FieldGuard([this] { m_strip->setFocus(); }, this));
    setMinimumSize(kLeastSize); // whatever a bench would like: the window stays as it is
    m_transport.setListen(readListenSettings(m_settings));
    m_derived.setSchool(static_cast<CountSchool>(
        std::clamp(m_settings.value("count/school", 0).toInt(), 0, kCountSchools - 1)));
    connect(&m_derived, &Derived::changed, this, [this] {
        m_settings.setValue("count/school", static_cast<int>(m_derived.school()));
    });
    build();
    m_document.setLockFolder(state_folder / "open");
    connectDocument();
    connectTakes();
    connectActions();
    openOnAScreen(*this, kUsualSize, m_settings.value("window/geometry").toByteArray());
    showBench(static_cast<BenchKind>(
        std::clamp(m_settings.value("window/bench", static_cast<int>(BenchKind::Neck)).toInt(),
                   0,
                   kBenchCount - 1)));
}

// What is said of the piece, and what follows when it was opened, saved or named.
void MainWindow::connectDocument() {
    connect(&m_jobs, &JobRunner::failed, this, [this](const QString& what) {
        m_banner->say(tr("That could not be finished (%1); nothing was changed. Close other "
                         "programs and try again.")
                          .arg(what));
    });
    connect(&m_keeper, &JournalKeeper::problem, m_banner, &Banner::say);
    connect(&m_kept, &KeptWork::wanted, this, [this](const std::function<void()>& go_on) {
        if (mayLeave())
            go_on();
    });
    connect(&m_document, &Document::opened, this, &MainWindow::afterOpening);
    connect(&m_document, &Document::refused, m_banner, &Banner::hint);
    connect(&m_document, &Document::undoAsked, this, &MainWindow::askAboutUndoing);
    connect(&m_commands, &EditCommands::said, m_banner, &Banner::hint);
    connect(&m_pulse, &PulseCommands::said, m_banner, &Banner::hint);
    connect(&m_chords, &ChordCommands::said, m_banner, &Banner::hint);
    m_commands.setDoubtsByTime(m_settings.value("doubts/byTime", false).toBool());
    connect(&m_commands, &EditCommands::doubtOrderChanged, this, [this] {
        m_settings.setValue("doubts/byTime", m_commands.doubtsByTime());
    });
    connect(&m_readings, &ReadingCommands::said, m_banner, &Banner::hint);
    m_document.setWho(m_settings.value("decisions/who").toString());
    connect(&m_document, &Document::stepped, this, [this] {
        m_settings.setValue("decisions/who", m_document.who());
    });
    connect(&m_questions, &Questions::said, m_banner, &Banner::hint);
    connect(&m_questions, &Questions::changed, this, &MainWindow::showSide);
    connect(&m_questions, &Questions::answered, &m_commands, &EditCommands::nextDoubt);
    connect(&m_document, &Document::saved, this, [this] {
        m_settings.setValue("last/file", m_document.file());
    });
    connect(&m_document, &Document::changed, this, [this](const Changes& what) {
        if (what.title)
            showTitle();
    });
    connect(&m_opening,
            &Opening::wanted,
            this,
            [this](const QString&, const std::function<void()>& go_on) {
                if (mayLeave())
                    go_on();
            });
}

void MainWindow::connectActions() {
    connect(&m_actions, &Actions::benchWanted, this, &MainWindow::showBench);
    m_actions.setColours(chosenColours(m_settings));
    connect(&m_actions, &Actions::coloursWanted, this, [this](Colours colours) {
        keepColours(m_settings, colours);
        m_actions.setColours(colours);
        m_banner->hint(tr("The colours change when Wirenote starts again."));
    });
    connect(&m_actions, &Actions::quitWanted, this, &QWidget::close);
    connect(&m_actions, &Actions::filmWanted, this, [this] {
        m_settings.setValue("window/film", !m_settings.value("window/film", true).toBool());
        showFilm();
    });
    connect(&m_actions, &Actions::filmLookWanted, this, [this] {
        m_film_commands.look(m_film->shownTake());
    });
    connect(&m_actions, &Actions::neckWanted, m_film, &FilmPane::giveOrUse);
    connect(&m_actions, &Actions::placesWanted, m_film, &FilmPane::showPlaces);
    connect(&m_actions, &Actions::stiffnessWanted, this, [this] {
        const bool shown = m_centre->currentIndex() == CentreStiffness;
        if (shown)
            showBench(static_cast<BenchKind>(m_settings.value("window/bench").toInt()));
        else
            m_centre->setCurrentIndex(CentreStiffness);
    });
}

// The views listen to the document and its undo stack: they go first.
MainWindow::~MainWindow() {
    delete takeCentralWidget();
}

void MainWindow::connectTakes() {
    connect(&m_takes, &TakeCommands::said, m_banner, &Banner::hint);
    connect(&m_takes, &TakeCommands::warned, m_banner, &Banner::say);
    connect(&m_film_commands, &FilmCommands::said, m_banner, &Banner::hint);
    connect(&m_film_commands, &FilmCommands::warned, m_banner, &Banner::say);
    connect(&m_takes, &TakeCommands::takesToHear, &m_playings, &Playings::recognise);
    connect(&m_dictation, &Dictation::said, m_banner, &Banner::hint);
    connect(&m_playings, &Playings::said, m_banner, &Banner::hint);
    connect(&m_playings, &Playings::warned, m_banner, &Banner::say);
    connect(&m_transport, &Transport::deviceLost, this, [this] {
        m_banner->say(tr("The sound device takes no sound any more. Plug it in again and open the "
                         "piece anew; until then the playhead moves in silence."));
    });
    connect(&m_transport, &Transport::restAdvised, this, [this](int minutes) {
        m_banner->say(
            tr("You have been listening for %1 minutes. Rest your ears and your hands for a "
               "while; if anything hurts or rings, stop and see a professional.")
                .arg(minutes));
    });
    connect(&m_transport, &Transport::changed, this, [this] {
        keepListenSettings(m_settings, m_transport.listen());
        m_readings.sayWhatIsFor(m_document.whole().timeline.tempo_bpm * m_transport.listen().speed);
    });
}

void MainWindow::build() {
    m_actions.fill(*menuBar());
    auto* centre = new QWidget;
    auto* column = new QVBoxLayout(centre);
    column->setContentsMargins(8, 2, 8, 8);
    column->setSpacing(6);
    auto* bar = new TopBar(m_document, m_derived, m_transport, m_takes, m_questions, m_commands);
    column->addWidget(bar);
    // Rail and card stay free.
    m_banner->layOver(centre, {kRailWidth, bar->sizeHint().height() + 6, kSideWidth + 16, 0});
    m_pages = new QStackedWidget;
    auto* welcome = new Welcome;
    connect(welcome, &Welcome::openWanted, &m_opening, &Opening::askAndOpen);
    connect(welcome, &Welcome::demoWanted, &m_opening, &Opening::openDemo);
    m_pages->addWidget(welcome);
    m_pages->addWidget(buildWork());
    column->addWidget(m_pages, 1);
    setCentralWidget(centre);
}

QWidget* MainWindow::buildNeck() {
    auto* neck = new NeckView(m_document, m_selection, m_transport, m_derived);
    connect(&m_actions, &Actions::neckHarmonyWanted, neck, &NeckView::showHarmony);
    return neck;
}

QWidget* MainWindow::buildStrokes() {
    auto* strokes = new StrokesCard(
        m_document, m_selection, m_derived, m_transport, m_commands, m_stroke_commands, m_takes);
    connect(strokes, &StrokesCard::dynamicsWanted, &m_sheet_commands, &SheetCommands::putMarks);
    return folded(strokes);
}

QWidget* MainWindow::buildWork() {
    m_rail = new Rail(m_document, m_derived);
    m_strip = new StripView(m_document, m_selection, m_time, m_transport);
    m_sheet = new SheetView(m_document, m_derived, m_selection, m_transport, m_sheet_commands);
    m_neck = buildNeck();
    m_centre = new QStackedWidget;
    m_centre->addWidget(m_strip);
    m_centre->addWidget(m_sheet);
    m_centre->addWidget(new StiffnessMap(m_document, m_selection, m_commands, m_derived));
    m_side = new QStackedWidget;
    m_side->setFixedWidth(kSideWidth);
    auto* why = new WhyCard(m_document, m_selection, m_commands, m_derived, m_pulse);
    connect(&m_actions, &Actions::partialsWanted, why, [why] {
        why->showPartials(!why->partialsShown());
    });
    m_side->addWidget(scrolled(buildNoteSide(why)));
    m_side->addWidget(scrolled(buildTakeSide()));
    m_side->addWidget(scrolled(buildPulseSide()));
    m_side->addWidget(scrolled(buildSheetSide()));
    m_side->addWidget(scrolled(new QuestionCard(m_document, m_questions)));
    m_side->addWidget(scrolled(new ReadingCard(m_document, m_derived, m_readings)));
    m_side->addWidget(scrolled(buildLessonSide()));
    connect(m_rail, &Rail::chosen, this, &MainWindow::showBench);
    connect(m_strip, &StripView::menuWanted, &m_actions, &Actions::showNoteMenu);

    auto* work = new QWidget;
    auto* rows = columnIn(work);
    auto* upper = new QHBoxLayout;
    upper->setSpacing(8);
    upper->addWidget(m_rail);
    auto* middle = new QVBoxLayout;
    middle->setSpacing(8);
    middle->addWidget(new MapView(m_document, m_time, m_transport, m_derived, m_pulse));
    m_film = new FilmPane(m_document, m_selection, m_transport, m_film_commands);
    middle->addWidget(m_film, 1);
    connect(m_film, &FilmPane::roomWanted, this, [this] {
        showBench(static_cast<BenchKind>(m_settings.value("window/bench").toInt()));
    });
    middle->addWidget(m_centre, 1);
    connect(&m_document, &Document::opened, m_film, [this] { showFilm(); });
    connect(&m_document, &Document::changed, m_film, [this](const Changes& what) {
        if (what.takes)
            showFilm();
    });
    m_listening = buildListening();
    middle->addWidget(m_listening);
    m_span = folded(new SpanCard(m_document, m_selection, m_derived, m_transport, m_commands));
    middle->addWidget(m_span);
    m_hand = folded(new HandCard(m_document, m_selection, m_derived, m_takes, m_settings));
    middle->addWidget(m_hand);
    m_strokes = buildStrokes();
    middle->addWidget(m_strokes);
    addPages(*middle);
    upper->addLayout(middle, 1);
    upper->addWidget(m_side);
    rows->addLayout(upper, 1);
    m_neck->setMaximumHeight(kNeckHeight);
    rows->addWidget(m_neck);
    return work;
}

// What lies under the strip on the Readings and the Lesson bench.
void MainWindow::addPages(QVBoxLayout& column) {
    m_differences = buildReadings();
    column.addWidget(m_differences, 1);
    m_lesson_pages = lessonPages(m_document, m_lesson_book, m_lesson, m_selection, m_transport);
    column.addWidget(m_lesson_pages, 1);
}

QWidget* MainWindow::buildNoteSide(QWidget* why) {
    auto* chord = new ChordCard(m_document, m_selection, m_derived, m_chords);
    connect(&m_actions, &Actions::gripWanted, chord, &ChordCard::writeGrip);
    auto* side = new QWidget;
    auto* column = columnIn(side);
    column->addWidget(chord);
    column->addWidget(why, 1);
    return side;
}

QWidget* MainWindow::buildTakeSide() {
    auto* take = new TakeCard(m_document, m_transport, m_takes);
    connect(take, &TakeCard::filmLookWanted, &m_film_commands, &FilmCommands::look);
    connect(take, &TakeCard::addWanted, &m_opening, &Opening::askAndAdd);
    connect(take, &TakeCard::recordingWanted, &m_opening, &Opening::askForRecording);
    auto* side = new QWidget;
    auto* column = columnIn(side);
    column->addWidget(take);
    auto* instrument = new InstrumentCard(m_document, m_derived, m_takes);
    connect(instrument, &InstrumentCard::wantsNote, &m_selection, [this](NoteId note) {
        m_selection.choose(note);
    });
    column->addWidget(instrument, 1);
    return side;
}

QWidget* MainWindow::buildPulseSide() {
    auto* side = new QWidget;
    auto* column = columnIn(side);
    column->addWidget(new PulseCard(m_document, m_commands, m_derived, m_pulse));
    column->addWidget(new FormCard(m_document, m_transport, m_derived, m_pulse), 1);
    return side;
}

QWidget* MainWindow::buildListening() {
    auto* row_holder = new QWidget;
    auto* row = new QHBoxLayout(row_holder);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    auto* shown = new QWidget; // two films at the same place of the music
    auto* films = columnIn(shown);
    films->setSpacing(4);
    auto* picture = new PictureView(m_document, m_transport);
    auto* other = new PictureView(m_document, m_transport, PictureView::Of::Other);
    other->setObjectName("otherPicture");
    films->addWidget(picture, 1);
    films->addWidget(other, 1);
    row->addWidget(shown, 1);
    row->addWidget(new ListenPanel(m_document, m_transport), 1);
    connect(&m_actions, &Actions::pictureStepWanted, picture, [this, picture](int pictures) {
        m_film->isVisible() ? m_film->step(pictures) : picture->step(pictures);
    });
    // Without a film the room is for the listening alone.
    const auto fit = [shown, picture, other] {
        shown->setVisible(picture->hasPicture());
        other->setVisible(other->hasPicture());
        picture->setLow(other->hasPicture());
        other->setLow(true);
    };
    connect(&m_document, &Document::opened, picture, fit);
    connect(&m_document, &Document::changed, picture, fit);
    fit();
    auto* tabs = new QTabWidget;
    tabs->setObjectName("takeTabs");
    tabs->setMaximumHeight(kTabsHeight);
    tabs->addTab(folded(row_holder), tr("Listening"));
    for (const auto of : {PlayedList::Of::Stretches,
                          PlayedList::Of::Forms,
                          PlayedList::Of::Variants,
                          PlayedList::Of::Bars,
                          PlayedList::Of::Shots})
        tabs->addTab(new PlayedList(of, m_document, m_derived, m_transport, m_playings),
                     PlayedList::nameOf(of));
    connect(&m_actions, &Actions::nextListWanted, tabs, [tabs] {
        tabs->setCurrentIndex((tabs->currentIndex() + 1) % tabs->count());
        if (auto* rows = tabs->currentWidget()->findChild<QTreeWidget*>()) {
            rows->setFocus();
            if (!rows->currentItem())
                rows->setCurrentItem(rows->topLevelItem(0));
        }
    });
    return tabs;
}

QWidget* MainWindow::buildReadings() {
    auto* tabs = new QTabWidget;
    tabs->setObjectName("readingTabs");
    tabs->addTab(new DifferencesList(m_document, m_derived, m_selection, m_readings),
                 tr("Differences"));
    auto* decisions = new DecisionsList(m_document, m_selection);
    tabs->addTab(decisions, tr("Decisions"));
    tabs->addTab(new OpenList(m_document, m_selection), tr("Left open, optional, written"));
    auto* review = new ReviewList(m_document, m_selection);
    tabs->addTab(review, tr("New evidence"));
    tabs->addTab(new LicksList(m_document, m_derived, m_selection, m_state_folder / "licks.json"),
                 tr("Licks"));
    tabs->addTab(new PaperView(m_document, m_transport), tr("Score on paper"));
    for (int page = 0; page < tabs->count(); ++page) { // lists lie on paper, too
        QPalette palette = tabs->widget(page)->palette();
        palette.setColor(QPalette::Window, theme().paper);
        tabs->widget(page)->setPalette(palette);
        tabs->widget(page)->setAutoFillBackground(true);
        tabs->widget(page)->setContentsMargins(8, 6, 8, 4);
    }
    connect(review, &ReviewList::arrived, this, [this, tabs, review](int changes) {
        tabs->setCurrentWidget(review);
        m_banner->hint(tr("%1 decided otherwise: see New evidence on the Readings bench (F7).")
                           .arg(countText(changes,
                                          QT_TRANSLATE_NOOP("wording", "%1 thing was"),
                                          QT_TRANSLATE_NOOP("wording", "%1 things were"))));
    });
    connect(&m_actions, &Actions::historyWanted, this, [this, tabs, decisions] {
        showBench(BenchKind::Readings);
        tabs->setCurrentWidget(decisions);
        decisions->showHistoryOf(m_selection.note());
    });
    connect(&m_actions, &Actions::nextListWanted, tabs, [tabs] {
        if (tabs->isVisible())
            tabs->setCurrentIndex((tabs->currentIndex() + 1) % tabs->count());
    });
    return tabs;
}

QWidget* MainWindow::buildLessonSide() {
    auto* card = new LessonCard(m_document, m_lesson_book, m_lesson);
    const auto prompt = [this] { (new PromptView(m_lesson_book, m_lesson, this))->show(); };
    const auto preview = [this] { (new LessonPreview(m_lesson_book, this))->show(); };
    connect(card, &LessonCard::promptWanted, this, prompt);
    connect(card, &LessonCard::previewWanted, this, preview);
    connect(&m_actions, &Actions::promptWanted, this, prompt);
    connect(&m_actions, &Actions::previewWanted, this, preview);
    connect(&m_actions, &Actions::packWanted, card, &LessonCard::askForFolder);
    connect(&m_lesson, &LessonCommands::said, m_banner, &Banner::say);
    return card;
}

QWidget* MainWindow::buildSheetSide() {
    auto* side = new QWidget;
    auto* column = columnIn(side);
    column->addWidget(new SheetCard(m_document, m_selection, m_sheet_commands, m_settings));
    column->addWidget(new PieceCard(m_document), 1);
    return side;
}

void MainWindow::showBench(BenchKind kind) {
    m_rail->setCurrent(kind);
    m_settings.setValue("window/bench", static_cast<int>(kind));
    const bool sheet = kind == BenchKind::Sheet;
    m_centre->setCurrentIndex(sheet ? CentreSheet : CentreStrip);
    showSide();
    showFilm();
    const bool roomy = !(m_film->isVisibleTo(m_film->parentWidget()) && m_film->wantsRoom());
    m_neck->setVisible(roomy && kind == BenchKind::Neck);
    m_listening->setVisible(kind == BenchKind::Takes);
    m_span->setVisible(roomy && kind == BenchKind::Notes);
    const bool readings = kind == BenchKind::Readings;
    m_differences->setVisible(readings);
    const bool lesson = kind == BenchKind::Lesson;
    m_lesson_pages->setVisible(lesson);
    m_hand->setVisible(roomy && kind == BenchKind::Neck);
    m_strokes->setVisible(roomy && kind == BenchKind::Strokes);
    m_centre->setMaximumHeight(roomy && !readings && !lesson ? QWIDGETSIZE_MAX : kLowStrip);
    m_strip->showLanes(m_lanes.of(kind));
    m_actions.setBench(kind);
    if (!sheet)
        m_strip->setFocus();
}

// A question stands before what the bench is for.
void MainWindow::showSide() {
    const auto kind = static_cast<BenchKind>(m_settings.value("window/bench").toInt());
    m_side->setCurrentIndex(m_questions.isOpen()          ? SideQuestion
                            : kind == BenchKind::Takes    ? SideTake
                            : kind == BenchKind::Pulse    ? SidePulse
                            : kind == BenchKind::Sheet    ? SidePiece
                            : kind == BenchKind::Readings ? SideReadings
                            : kind == BenchKind::Lesson   ? SideLesson
                                                          : SideWhy);
}

// Beside the card and the strip, where notes are looked at.
void MainWindow::showFilm() {
    const auto bench = static_cast<BenchKind>(m_settings.value("window/bench").toInt());
    const bool notes =
        bench == BenchKind::Notes || bench == BenchKind::Neck || bench == BenchKind::Strokes;
    m_film->setVisible(notes && m_film->hasPicture() &&
                       m_settings.value("window/film", true).toBool());
    m_neck->setMaximumHeight(m_film->isVisibleTo(this) ? kLowNeck : kNeckHeight);
}

void MainWindow::afterOpening() {
    m_pages->setCurrentIndex(1);
    m_strip->setFocus();
    showTitle();
    if (!m_document.file().isEmpty())
        m_settings.setValue("last/file", m_document.file());
    if (m_document.heldElsewhere())
        m_banner->say(tr("This piece is open in another window too. What you change here is saved "
                         "only under another name, or when you say so."));
}

void MainWindow::showTitle() {
    setWindowTitle(tr("%1 – Wirenote").arg(QString::fromStdString(m_document.piece().title)));
}

void MainWindow::restoreLast() {
    if (m_kept.offer())
        return;
    const QString last = m_settings.value("last/file").toString();
    if (!last.isEmpty() && QFileInfo::exists(last))
        m_opening.open(last);
}

void MainWindow::openPath(const QString& path) {
    openPaths({path});
}

void MainWindow::openPaths(const QStringList& paths) {
    if (mayLeave())
        m_opening.open(paths.front(), paths.mid(1));
}

void MainWindow::openDemo() {
    m_opening.openDemo();
}

void MainWindow::keepNow() {
    m_keeper.flush();
}

void MainWindow::leaveKeeping() {
    keepNow();
    m_leaving = true;
    close();
    QApplication::quit();
}

void MainWindow::askAboutUndoing(const QString& step) {
    QMessageBox box(
        QMessageBox::Question,
        tr("Take back the hearing?"),
        tr("The next step back is “%1”: it takes away every note that was heard.").arg(step),
        QMessageBox::Cancel,
        this);
    const auto* back = box.addButton(tr("Take it back"), QMessageBox::DestructiveRole);
    box.setDefaultButton(QMessageBox::Cancel);
    box.exec();
    if (box.clickedButton() == back)
        m_document.undoSurely();
}

bool MainWindow::mayLeave() {
    if (!m_document.modified())
        return true;
    const auto answer =
        QMessageBox::question(this,
                              tr("Not saved yet"),
                              tr("“%1” has changes that are not saved.")
                                  .arg(QString::fromStdString(m_document.piece().title)),
                              QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel,
                              QMessageBox::Save);
    if (answer == QMessageBox::Save)
        return m_exporting.save();
    return answer == QMessageBox::Discard;
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (!m_leaving && !mayLeave()) {
        event->ignore();
        return;
    }
    if (!m_leaving)
        m_keeper.discard();
    m_jobs.cancel();
    m_transport.pause();
    m_settings.setValue("window/geometry", saveGeometry());
    event->accept();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    const auto urls = event->mimeData()->urls();
    if (std::any_of(urls.begin(), urls.end(), [](const QUrl& url) { return url.isLocalFile(); }))
        event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    QStringList paths;
    for (const QUrl& url : event->mimeData()->urls())
        if (url.isLocalFile())
            paths << url.toLocalFile();
    m_opening.openMany(paths);
}

} // namespace wirenote::app
