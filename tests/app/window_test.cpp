// The real window, driven as a person would: keys, clicks, files.
#include "app/bench_fixture.h"
#include "app/benches/sheet/sheet_view.h"
#include "app/benches/takes/picture_view.h"

#include "base/atomic_file.h"
#include "media/sound_file.h"
#include "session/files.h"
#include "session/resolve.h"
#include "support/pieces.h"
#include "support/recordings.h"
#include "support/shell.h"
#include "support/tones.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>
#include <QRegularExpression>
#include <QSlider>
#include <QTest>
#include <QTimer>
#include <gtest/gtest.h>
#include <map>

namespace wirenote::app {
namespace {

class Window : public BenchTest {
  protected:
    Window() : BenchTest(BenchKind::Neck) {}

    void open(const std::filesystem::path& path) {
        bool opened = false;
        QObject::connect(
            &window.document(), &Document::opened, &window, [&opened] { opened = true; });
        window.openPath(QString::fromStdString(path.string()));
        ASSERT_TRUE(QTest::qWaitFor([&] { return opened; }, kPatience_ms));
        // A recording is heard after it has opened.
        ASSERT_TRUE(QTest::qWaitFor([&] { return !piece().notes.empty(); }, kPatience_ms));
        settle();
    }
    // The demo as it is heard by somebody who cannot tell strings apart by their sound: what is
    // left in doubt is what playability alone does not decide.
    std::filesystem::path heardWithoutStrings() {
        Piece deaf = *readAny(demo().piece);
        deaf.lead()->path = demo().take.string();
        deaf.takes.resize(1);
        deaf.title = "heron-at-low-water";
        deaf.string_traits.clear();
        for (std::size_t i = 0; i < deaf.notes.size(); ++i) {
            deaf.notes[i].ownSound().stiffness = {};
            deaf.asPlayed().plans[i].position = {};
        }
        placeAndStroke(deaf);
        EXPECT_TRUE(writeAny(deaf, scratch / "heron-at-low-water.wirenote").ok());
        return scratch / "heron-at-low-water.wirenote";
    }
    // Takes are opened and lined up one after the other.
    void addSlowTake() {
        open(demo().take);
        window.opening().openMany({QString::fromStdString(demo().slow.string())});
        ASSERT_TRUE(QTest::qWaitFor(
            [&] { return piece().takes.size() == 2 && !piece().takes[1].alignment.sameClock(); },
            kPatience_ms));
        QTest::qWait(20);
    }
    void key(Qt::Key k, Qt::KeyboardModifiers modifiers = Qt::NoModifier) { press(k, modifiers); }
    // Of a note; what is asked of the whole piece is put off.
    void toTheFirstDoubt() { // about a place
        const auto isThere = [this] {
            const Doubt* doubt = window.derived().doubtOf(window.selection().note());
            return !window.questions().isOpen() && doubt && doubt->kind == DoubtKind::Place;
        };
        for (int k = 0; k < 20 && !isThere(); ++k)
            key(Qt::Key_N);
    }
    const NotePlan& plan() { return *piece().plan(window.selection().note()); }
    const Note& note() { return *piece().note(window.selection().note()); }
    QString banner() {
        return window.findChild<QLabel*>("bannerText")->isVisible()
                   ? window.findChild<QLabel*>("bannerText")->text()
                   : QString();
    }
};

TEST_F(Window, TheDemoIsHeardWithItsStringsAndLeavesNoDoubt) {
    open(demo().take);
    EXPECT_GT(piece().notes.size(), 60U);
    EXPECT_TRUE(window.document().modified()) << "a new tab is kept nowhere yet";
    const Piece truth = *readAny(demo().truth);
    std::size_t right = 0;
    for (std::size_t i = 0; i < truth.notes.size(); ++i)
        for (std::size_t k = 0; k < piece().notes.size(); ++k)
            if (std::abs(piece().notes[k].onset_s() - truth.notes[i].onset_s()) < 0.05 &&
                piece().asPlayed().plans[k].position.value ==
                    truth.asPlayed().plans[i].position.value)
                ++right;
    EXPECT_GE(right * 100, truth.notes.size() * 95) << "string and fret, by their sound";
    EXPECT_LT(window.derived().doubts().size(), 4U);
}

TEST_F(Window, FromDoubtsToAnExportedFile) {
    open(heardWithoutStrings());
    const std::vector<Doubt> doubts = window.derived().doubts();
    ASSERT_FALSE(doubts.empty());
    // The first doubt: look, take a runner-up by its number key, the neighbourhood follows, undo.
    toTheFirstDoubt();
    ASSERT_NE(window.selection().note(), 0);
    const Position before = plan().position.value;
    ASSERT_FALSE(plan().position.runners_up.empty());
    const int other = plan().position.runners_up.front().value.string;
    key(static_cast<Qt::Key>(Qt::Key_0 + other));
    EXPECT_EQ(plan().position.value.string, other);
    EXPECT_TRUE(plan().position.isSet());
    // It is in doubt no more, and nothing is that the change did not reach.
    const NoteId decided = window.selection().note();
    EXPECT_EQ(window.derived().doubtOf(decided), nullptr);
    const auto at = static_cast<double>(*piece().indexOf(decided));
    for (const Doubt& doubt : window.derived().doubts()) {
        const bool was = std::ranges::find(doubts, doubt.note, &Doubt::note) != doubts.end();
        const auto away = std::abs(static_cast<double>(*piece().indexOf(doubt.note)) - at);
        EXPECT_TRUE(was || away <= 24.0) << away << " notes away";
    }
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(plan().position.value, before);
    EXPECT_FALSE(plan().position.isSet());
    // Accepted, the next doubt comes by itself.
    const NoteId first = window.selection().note();
    key(Qt::Key_Return);
    EXPECT_NE(window.selection().note(), first);
    EXPECT_TRUE(piece().plan(first)->position.isSet());
    EXPECT_LT(window.derived().doubts().size(), doubts.size());
    // Kept and handed on.
    ASSERT_TRUE(
        window.exporting().saveTo(QString::fromStdString((scratch / "p.wirenote").string())));
    EXPECT_FALSE(window.document().modified());
    for (const char* name : {"out.musicxml", "out.mid", "out.tab", "out.json", "out.pdf"})
        ASSERT_TRUE(window.exporting().exportTo(QString::fromStdString((scratch / name).string())))
            << name;
    EXPECT_EQ(readAny(scratch / "out.musicxml")->notes.size(), piece().notes.size());
    // The PDF holds the title and the fret numbers as text (pdftotext is an independent reader).
    const auto pdf = test::shell("pdftotext -layout " + (scratch / "out.pdf").string() + " -");
    EXPECT_EQ(pdf.status, 0);
    EXPECT_NE(pdf.output.find("heron-at-low-water"), std::string::npos) << pdf.output;
    // A number of each note's fret at least, beside those of bars.
    std::map<int, int> written;
    const QString words = QString::fromStdString(pdf.output);
    static const QRegularExpression kNumber("\\d+");
    for (auto number = kNumber.globalMatch(words); number.hasNext();)
        ++written[number.next().captured().toInt()];
    std::map<int, int> played;
    for (const NotePlan& one : piece().asPlayed().plans)
        ++played[one.position.value.fret];
    for (const auto& [fret, times] : played)
        EXPECT_GE(written[fret], times) << "fret " << fret;
    // Reopened, everything decided is there.
    const Piece saved = piece();
    open(scratch / "p.wirenote");
    EXPECT_TRUE(piece().notes == saved.notes);
    EXPECT_TRUE(piece().readings == saved.readings);
    EXPECT_TRUE(piece().log == saved.log);
}

TEST_F(Window, EveryCorrectionWorksByKeyAndIsUndone) {
    open(demo().piece);
    window.selection().choose(piece().notes[5].id);
    const Piece start = piece();
    struct Step {
        const char* name;
        Qt::Key key;
        Qt::KeyboardModifiers modifiers;
    };
    const Step steps[] = {{"fret up", Qt::Key_Up, {}},
                          {"pitch down", Qt::Key_Down, Qt::ShiftModifier},
                          {"octave up", Qt::Key_Up, Qt::ControlModifier | Qt::ShiftModifier},
                          {"start later", Qt::Key_Right, Qt::ControlModifier | Qt::ShiftModifier},
                          {"end earlier", Qt::Key_Left, Qt::ControlModifier},
                          {"join", Qt::Key_J, {}},
                          {"delete", Qt::Key_Delete, {}},
                          {"accept", Qt::Key_Return, {}},
                          {"stroke", Qt::Key_U, {}},
                          {"downbeat", Qt::Key_1, Qt::ControlModifier}};
    for (const Step& step : steps) {
        window.selection().choose(start.notes[5].id);
        key(step.key, step.modifiers);
        EXPECT_FALSE(piece() == start) << step.name << ": " << banner().toStdString();
        key(Qt::Key_Z, Qt::ControlModifier);
        EXPECT_TRUE(piece() == start) << step.name;
    }
    // At the playhead: split and add.
    window.selection().choose(start.notes[5].id);
    window.transport().seek(0.5 * (note().onset_s() + note().offset_s()));
    key(Qt::Key_S);
    EXPECT_EQ(piece().notes.size(), start.notes.size() + 1);
    key(Qt::Key_Z, Qt::ControlModifier);
    key(Qt::Key_A);
    EXPECT_EQ(piece().notes.size(), start.notes.size() + 1);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_TRUE(piece() == start);
    EXPECT_FALSE(window.document().modified());
}

TEST_F(Window, AGhostIsTakenWithTheMouse) {
    open(heardWithoutStrings());
    toTheFirstDoubt();
    const NoteId id = window.selection().note();
    const int other = plan().position.runners_up.front().value.string;
    QTest::qWait(30);
    const auto ghost = window.strip().noteCentre(id, other);
    ASSERT_TRUE(ghost);
    QTest::mouseClick(&window.strip(), Qt::LeftButton, {}, ghost->toPoint());
    EXPECT_EQ(piece().plan(id)->position.value.string, other);
    // A click elsewhere on a note chooses it.
    const NoteId next = piece().notes[*piece().indexOf(id) > 0 ? *piece().indexOf(id) - 1 : 1].id;
    QTest::mouseClick(
        &window.strip(), Qt::LeftButton, {}, window.strip().noteCentre(next)->toPoint());
    EXPECT_EQ(window.selection().note(), next);
}

TEST_F(Window, ANoteNearlyHeardIsTakenByKeyAndByMouse) {
    Piece chords = test::pieceOf({{0.5, 1.4, 48, {5, 3}},
                                  {0.5, 1.4, 52, {4, 2}},
                                  {1.5, 2.4, 48, {5, 3}},
                                  {1.5, 2.4, 52, {4, 2}}});
    chords.misses = {{{0.5, 1.4}, 55, 0.4, {3, 0}}, {{1.5, 2.4}, 60, 0.3, {2, 1}}};
    ASSERT_TRUE(writeAny(chords, scratch / "chords.wirenote").ok());
    window.openPath(QString::fromStdString((scratch / "chords.wirenote").string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
    window.transport().seek(0.5);
    key(Qt::Key_V);
    EXPECT_EQ(piece().notes.size(), 5U);
    EXPECT_EQ(note().midi(), 55);
    EXPECT_TRUE(plan().placed()) << "it is placed with its neighbours";
    EXPECT_EQ(piece().misses.size(), 1U);
    // The other one with the mouse, where it is drawn.
    window.showBench(BenchKind::Notes);
    QTest::qWait(20);
    const StripView& strip = window.strip();
    bool taken = false;
    for (int y = 100; y < strip.height() && !taken; y += 6)
        for (int x = 60; x < strip.width() && !taken; x += 6) {
            if (!strip.words({static_cast<double>(x), static_cast<double>(y)})
                     .contains("may have been played"))
                continue;
            QTest::mouseClick(&window.strip(), Qt::LeftButton, Qt::NoModifier, {x, y});
            taken = true;
        }
    EXPECT_TRUE(taken);
    EXPECT_EQ(note().midi(), 60);
    EXPECT_TRUE(piece().misses.empty());
    key(Qt::Key_V);
    EXPECT_EQ(piece().notes.size(), 6U) << "nothing is left to take";
    window.document().undoStack().undo();
    window.document().undoStack().undo();
    EXPECT_EQ(piece().notes.size(), 4U);
    EXPECT_EQ(piece().misses.size(), 2U);
}

TEST_F(Window, TheCardShowsHowStiffANoteSounds) {
    Piece line = test::pieceOf({{0.5, 0.9, 64}, {1.0, 1.4, 66}, {1.5, 1.9, 67}});
    for (Note& n : line.notes)
        n.ownSound().stiffness = {-9.4, 0.1};
    line.notes[2].ownSound().stiffness = {-10.2, 0.1};
    placeAndStroke(line);
    ASSERT_TRUE(writeAny(line, scratch / "line.wirenote").ok());
    window.openPath(QString::fromStdString((scratch / "line.wirenote").string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
    window.showBench(BenchKind::Neck);
    window.selection().choose(piece().notes[0].id);
    QTest::qWait(30);
    const auto* view = window.findChild<QWidget*>("stiffness");
    ASSERT_NE(view, nullptr);
    EXPECT_TRUE(view->accessibleDescription().contains("times what string 2 has"))
        << view->accessibleDescription().toStdString();
    // Another stiffness stands elsewhere in the picture (each note gets a view of its own).
    const auto picture = [this] {
        return window.findChild<QWidget*>("stiffness")->grab().toImage();
    };
    const QImage stiff = picture();
    window.selection().choose(piece().notes[2].id);
    QTest::qWait(30);
    ASSERT_NE(window.findChild<QWidget*>("stiffness"), nullptr);
    EXPECT_NE(picture(), stiff);
}

TEST_F(Window, AnImpossibleCorrectionIsRefusedInOneSentence) {
    open(demo().piece);
    window.selection().choose(piece().notes[0].id); // E3: not on string 1
    const Piece before = piece();
    key(Qt::Key_1);
    EXPECT_TRUE(piece() == before);
    EXPECT_TRUE(banner().contains("not on string 1")) << banner().toStdString();
}

TEST_F(Window, PlaysWithoutASoundDeviceLoopsAndSaysSo) {
    open(demo().piece);
    EXPECT_TRUE(window.transport().simulated());
    bool said = false;
    for (const QLabel* label : window.findChildren<QLabel*>())
        said = said || label->text().contains("no sound device");
    EXPECT_TRUE(said);
    window.selection().choose(piece().notes[3].id);
    key(Qt::Key_L);
    ASSERT_TRUE(window.transport().loop());
    key(Qt::Key_Space);
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return window.transport().playhead_s() > window.transport().loop()->start_s + 0.05; },
        kPatience_ms));
    double furthest = 0.0;
    bool came_back = false;
    ASSERT_TRUE(QTest::qWaitFor(
        [&] {
            came_back = came_back || window.transport().playhead_s() < furthest - 0.3;
            furthest = std::max(furthest, window.transport().playhead_s());
            return came_back;
        },
        kPatience_ms));
    EXPECT_LE(furthest, window.transport().loop()->end_s + 0.02);
    key(Qt::Key_Space);
    EXPECT_FALSE(window.transport().playing());
    // The tab by the simulated instrument is rendered and played.
    window.transport().setLoop({});
    key(Qt::Key_T);
    EXPECT_EQ(window.transport().listening(), Listening::Tab);
    window.transport().seek(1.0);
    key(Qt::Key_Space);
    EXPECT_TRUE(
        QTest::qWaitFor([&] { return window.transport().playhead_s() > 1.05; }, kPatience_ms));
}

TEST_F(Window, BadFilesAreOneSentenceAndNothingIsLost) {
    open(demo().piece);
    const Piece before = piece();
    ASSERT_TRUE(writeFileAtomically(scratch / "words.mp3", std::string(5000, 'x')).ok());
    window.openPath(QString::fromStdString((scratch / "words.mp3").string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return banner().contains("not a recording"); }, kPatience_ms))
        << banner().toStdString();
    EXPECT_TRUE(piece() == before);
    window.opening().openMany({QString::fromStdString((scratch / "words.mp3").string())});
    QTest::qWait(100);
    EXPECT_TRUE(piece() == before) << "nor does it become a take";
    QTest::mouseClick(window.findChild<QPushButton*>("dismiss"), Qt::LeftButton);
    EXPECT_TRUE(banner().isEmpty());
    EXPECT_FALSE(window.exporting().saveTo("/dev/full/p.wirenote"));
    EXPECT_TRUE(banner().contains("what was there is unchanged")) << banner().toStdString();
}

TEST_F(Window, ASilentRecordingIsOpenedAndSaidToBeSilent) {
    ASSERT_TRUE(writeWav(scratch / "silent.wav", test::silence(2.0, 44100).view()).ok());
    window.openPath(QString::fromStdString((scratch / "silent.wav").string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return banner().contains("is silent"); }, kPatience_ms))
        << banner().toStdString();
    EXPECT_TRUE(piece().notes.empty());
}

TEST_F(Window, ASecondTakeIsLinedUpAndSwitchingKeepsTheMusicalPlace) {
    addSlowTake();
    const TakeAlignment& clock = piece().takes[1].alignment;
    EXPECT_GT(clock.certainty, 0.8);
    EXPECT_EQ(clock.semitones, -2);
    window.transport().seek(12.0);
    key(Qt::Key_X);
    EXPECT_EQ(window.transport().take(), 1U);
    EXPECT_NEAR(window.transport().playhead_s(), 12.0, 1e-9);
    // It plays from the same place of the music, and the playhead counts the piece's seconds.
    key(Qt::Key_Space);
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return window.transport().playhead_s() > 12.3; }, kPatience_ms));
    key(Qt::Key_X); // while it plays
    EXPECT_EQ(window.transport().take(), 0U);
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return window.transport().playhead_s() > 12.6; }, kPatience_ms));
    EXPECT_LT(window.transport().playhead_s(), 20.0);
    key(Qt::Key_Space);
    // Moved by hand, undone, and undone as a whole, once the second take has been listened to: what
    // is heard of it is an edit as well, and must not come between two small steps.
    ASSERT_TRUE(QTest::qWaitFor([&] { return !window.jobs().running(); }, kPatience_ms));
    key(Qt::Key_X);
    const TakeAlignment before = piece().takes[1].alignment;
    key(Qt::Key_Right, Qt::AltModifier);
    key(Qt::Key_Right, Qt::AltModifier);
    EXPECT_NEAR(
        piece().takes[1].alignment.toPiece({20.0}).s - before.toPiece({20.0}).s, 0.02, 1e-9);
    EXPECT_EQ(piece().takes[1].alignment.basis, Basis::Set);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_TRUE(piece().takes[1].alignment == before) << "two small steps are one";
    // The same two moments, marked in both.
    for (const double t : {8.0, 30.0}) {
        window.transport().setTake(0);
        window.transport().seek(t);
        key(Qt::Key_Q);
        window.transport().setTake(1);
        window.transport().seek(t + 0.05); // the person thinks it is a little later here
        key(Qt::Key_Q);
    }
    ASSERT_EQ(piece().takes[1].alignment.stretches.front().size(), 2U);
    EXPECT_NEAR(piece().takes[1].alignment.toTake({8.0}).s, before.toTake({8.05}).s, 0.03);
}

TEST_F(Window, ListensSlowerLowerAndInOneRangeByKey) {
    open(demo().take);
    key(Qt::Key_Comma);
    key(Qt::Key_Comma);
    EXPECT_NEAR(window.transport().listen().speed, 0.90, 1e-9);
    key(Qt::Key_Period);
    EXPECT_NEAR(window.transport().listen().speed, 0.95, 1e-9);
    key(Qt::Key_Slash);
    EXPECT_NEAR(window.transport().listen().speed, 1.0, 1e-9);
    window.selection().choose(piece().notes[4].id);
    key(Qt::Key_R);
    ASSERT_TRUE(window.transport().listen().band);
    EXPECT_EQ(window.transport().listen().band->low_midi, note().midi() - 4);
    key(Qt::Key_R);
    EXPECT_FALSE(window.transport().listen().band);
    key(Qt::Key_R, Qt::ShiftModifier);
    EXPECT_TRUE(window.transport().listen().without_drums);
    key(Qt::Key_R, Qt::ShiftModifier);
    EXPECT_FALSE(window.transport().listen().without_drums);
    key(Qt::Key_L);
    const double end = window.transport().loop()->end_s;
    key(Qt::Key_L, Qt::ShiftModifier);
    EXPECT_GT(window.transport().loop()->end_s, end);
    const double grown = window.transport().loop()->end_s;
    key(Qt::Key_L, Qt::ControlModifier);
    EXPECT_GT(window.transport().loop()->end_s, grown);
    window.transport().setLoop({});
    window.transport().seek(9.0);
    key(Qt::Key_B);
    EXPECT_TRUE(window.transport().playing());
    EXPECT_LT(window.transport().playhead_s(), 8.5);
    key(Qt::Key_Space);
    // Half speed: the playhead goes half as fast as the clock.
    ListenSettings listen = window.transport().listen();
    listen.speed = 0.5;
    window.transport().setListen(listen);
    window.transport().seek(1.0);
    QElapsedTimer clock;
    clock.start();
    key(Qt::Key_Space);
    ASSERT_TRUE(QTest::qWaitFor([&] { return clock.elapsed() > 900; }, kPatience_ms));
    EXPECT_LE(window.transport().playhead_s(),
              1.0 + 0.5 * static_cast<double>(clock.elapsed()) / 1000.0 + 0.01);
    EXPECT_GT(window.transport().playhead_s(), 1.1);
}

TEST_F(Window, TheVolumeLimitAndHowOneListensAreKept) {
    auto* limit = window.findChild<QSlider*>("limit");
    ASSERT_NE(limit, nullptr);
    limit->setValue(-12);
    EXPECT_DOUBLE_EQ(window.transport().listen().limit_db, -12.0);
    MainWindow again(settings, nullptr, scratch / "state");
    EXPECT_DOUBLE_EQ(again.transport().listen().limit_db, -12.0);
}

TEST_F(Window, AnotherTuningPlacesAnewButNeverHearsAnew) {
    open(demo().take);
    const auto notes = piece().notes;
    Instrument lower = piece().instrument;
    ASSERT_TRUE(setTuning(lower, "D2 A2 D3 G3 B3 E4").ok());
    auto* tuning = window.findChild<QLineEdit*>("tuningText");
    ASSERT_NE(tuning, nullptr);
    tuning->setText("D2 A2 D3 G3 B3 E4");
    emit tuning->editingFinished();
    EXPECT_EQ(tuningText(piece().instrument), "D2 A2 D3 G3 B3 E4");
    EXPECT_TRUE(piece().notes == notes);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(tuningText(piece().instrument), "E2 A2 D3 G3 B3 E4");
}

TEST_F(Window, AFilmIsShownFollowedAndSteppedThrough) {
    const auto film = test::film(scratch, "film.mp4", "-c:v libx264 -g 30 -c:a aac");
    window.openPath(QString::fromStdString(film.string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
    key(Qt::Key_F1);
    auto* picture = window.findChild<PictureView*>("picture");
    ASSERT_TRUE(QTest::qWaitFor([&] { return picture->isVisible(); }, kPatience_ms));
    window.transport().seek(1.01);
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return std::abs(picture->shown_s() - 1.0) < 0.001; }, kPatience_ms))
        << picture->shown_s();
    key(Qt::Key_Period, Qt::ControlModifier);
    ASSERT_TRUE(QTest::qWaitFor([&] { return picture->shown_s() > 1.02; }, kPatience_ms));
    EXPECT_NEAR(picture->shown_s(), 1.0 + 1.0 / 30.0, 0.001);
    key(Qt::Key_Comma, Qt::ControlModifier);
    ASSERT_TRUE(QTest::qWaitFor([&] { return picture->shown_s() < 1.02; }, kPatience_ms));
    EXPECT_NEAR(window.transport().playhead_s(), 1.0, 0.002) << "sound and picture stay together";
}

TEST_F(Window, AFolderOfRecordingsBecomesAPieceOfTakes) {
    std::filesystem::create_directories(scratch / "class");
    std::filesystem::copy_file(demo().take, scratch / "class" / "1.wav");
    std::filesystem::copy_file(demo().slow, scratch / "class" / "2.webm");
    ASSERT_TRUE(writeFileAtomically(scratch / "class" / "words.txt", "not a recording").ok());
    window.opening().openMany({QString::fromStdString((scratch / "class").string())});
    ASSERT_TRUE(QTest::qWaitFor([&] { return piece().takes.size() == 2; }, kPatience_ms));
    EXPECT_EQ(piece().lead()->name, "1");
}

TEST_F(Window, ClosingWithChangesAsks) {
    open(demo().piece);
    window.selection().choose(piece().notes[2].id);
    key(Qt::Key_Return);
    ASSERT_TRUE(window.document().modified());
    bool asked = false;
    const auto answer = [&asked](QMessageBox::StandardButton button) {
        QTimer::singleShot(50, [&asked, button] {
            if (auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget())) {
                asked = true;
                box->button(button)->click();
            }
        });
    };
    answer(QMessageBox::Cancel);
    EXPECT_FALSE(window.close());
    EXPECT_TRUE(asked);
    answer(QMessageBox::Discard);
    EXPECT_TRUE(window.close());
}

TEST_F(Window, EveryBenchShowsAndTheLastStateComesBack) {
    open(demo().piece);
    std::vector<QImage> seen;
    for (int f = 0; f < kBenchCount; ++f) {
        key(static_cast<Qt::Key>(Qt::Key_F1 + f));
        EXPECT_EQ(settings.value("window/bench").toInt(), f);
        seen.push_back(window.grab().toImage());
        for (int other = 0; other < f; ++other)
            EXPECT_NE(seen[static_cast<std::size_t>(other)], seen.back()) << other << " and " << f;
    }
    EXPECT_TRUE(window.findChild<QWidget*>("lessonCard")->isVisible());
    key(Qt::Key_F7);
    EXPECT_TRUE(window.findChild<QWidget*>("readingCard")->isVisible());
    key(Qt::Key_F6);
    EXPECT_TRUE(window.findChild<SheetView*>("sheet")->isVisible());
    EXPECT_TRUE(window.close());
    MainWindow again(settings, nullptr, scratch / "state");
    again.show();
    again.restoreLast();
    ASSERT_TRUE(QTest::qWaitFor([&] { return again.document().isOpen(); }, kPatience_ms));
    EXPECT_EQ(again.document().piece().title, "Heron at Low Water");
    EXPECT_TRUE(again.findChild<SheetView*>("sheet")->isVisible());
}

TEST_F(Window, WhatIsShownHasNamesForScreenReaders) {
    open(demo().piece);
    for (const char* name : {"strip", "neck", "why"})
        EXPECT_FALSE(window.findChild<QWidget*>(name)->accessibleName().isEmpty()) << name;
    window.selection().choose(piece().notes[0].id);
    EXPECT_TRUE(window.strip().accessibleDescription().contains("string 4"));
}

} // namespace
} // namespace wirenote::app
