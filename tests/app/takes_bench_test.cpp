// The Takes bench, driven as a person would: cards, lanes, the listening panel.
#include "app/bench_fixture.h"
#include "app/benches/film/film_lane.h"
#include "app/benches/takes/take_card.h"
#include "app/benches/takes/takes_lane.h"
#include "app/commands/take_commands.h"
#include "app/playing/listen_panel.h"
#include "app/text/wording.h"

#include "base/atomic_file.h"
#include "session/files.h"
#include "support/recordings.h"

#include <QCheckBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSlider>

namespace wirenote::app {
namespace {

class TakesBench : public BenchTest {
  protected:
    TakesBench() : BenchTest(BenchKind::Takes) {}
    QPoint inTakesLane(int take, double time_s) {
        const double gutter = 62.0;
        const double x = gutter + (time_s - 0.0) / 8.0 * (window.strip().width() - gutter - 4);
        int above = 24 + 26; // form and count, and the film of the demo's second take
        for (const auto& lane : window.strip().lanes())
            if (const auto* film = dynamic_cast<const FilmLane*>(lane.get());
                film && film->wanted())
                above += film->height();
        return QPoint(static_cast<int>(x), above + take * TakesLane::kRow + TakesLane::kRow / 2);
    }
};

TEST_F(TakesBench, EverythingOnTheTakeCardIsAnEditThatCanBeUndone) {
    openDemo();
    const Piece before = piece();
    const auto undone = [&](const char* what) {
        EXPECT_FALSE(piece() == before) << what;
        undo();
        EXPECT_TRUE(piece() == before) << what;
    };
    pick(fieldOf<QComboBox>("take", "Kind"), static_cast<int>(TakeKind::Stage));
    EXPECT_EQ(piece().takes[0].kind, TakeKind::Stage);
    undone("kind");
    pick(fieldOf<QComboBox>("take", "Rights"), static_cast<int>(TakeRights::StudyOnly));
    EXPECT_EQ(piece().takes[0].rights, TakeRights::StudyOnly);
    undone("rights");
    pick(fieldOf<QComboBox>("take", "Channels"), static_cast<int>(ChannelChoice::Left));
    EXPECT_EQ(piece().takes[0].channels, ChannelChoice::Left);
    undone("channels");
    fieldOf<QDoubleSpinBox>("take", "Level")->setValue(-4.5);
    EXPECT_DOUBLE_EQ(piece().takes[0].gain_db, -4.5);
    undone("level");
    for (const char* name : {"Name", "Origin", "Remark"}) {
        auto* line = fieldOf<QLineEdit>("take", name);
        ASSERT_NE(line, nullptr) << name;
        line->setText("the harbour class, row two");
        emit line->editingFinished();
        undone(name);
    }
    fieldOf<QDoubleSpinBox>("take", "A4")->setValue(441.5);
    EXPECT_EQ(piece().takes[0].reference.basis, Basis::Set);
    undone("A4");
}

TEST_F(TakesBench, TheSecondTakesReferenceDoesNotRenameTheNotes) {
    openDemo();
    const auto notes = piece().notes;
    window.transport().setTake(1);
    fieldOf<QDoubleSpinBox>("take", "A4")->setValue(432.0);
    EXPECT_DOUBLE_EQ(piece().takes[1].reference.a4_hz, 432.0);
    EXPECT_TRUE(piece().notes == notes);
    EXPECT_DOUBLE_EQ(piece().takes[0].reference.a4_hz, piece().lead()->reference.a4_hz);
}

TEST_F(TakesBench, TheCardSaysWhatATakeIsAndWhatToTrust) {
    openDemo();
    window.transport().setTake(1);
    QTest::qWait(10);
    QString words;
    for (const QLabel* label : window.findChild<QWidget*>("take")->findChildren<QLabel*>())
        words += label->text() + "\n";
    EXPECT_TRUE(words.contains("Take 2")) << words.toStdString();
    EXPECT_TRUE(words.contains("2 semitones lower")) << words.toStdString();
    EXPECT_TRUE(words.contains("14 cents flat")) << words.toStdString();
    EXPECT_TRUE(words.contains("belong to those who made them"));
}

TEST_F(TakesBench, ATakeIsDraggedIntoPlaceAndTheFirstIsNot) {
    openDemo();
    const TakeAlignment before = piece().takes[1].alignment;
    const QPoint from = inTakesLane(1, 4.0);
    const QPoint to = from + QPoint(60, 0);
    QTest::mousePress(&window.strip(), Qt::LeftButton, {}, from);
    EXPECT_EQ(window.transport().take(), 1U) << "pressing a take chooses it";
    QTest::mouseMove(&window.strip(), to);
    QTest::mouseRelease(&window.strip(), Qt::LeftButton, {}, to);
    const double moved = piece().takes[1].alignment.toPiece({20.0}).s - before.toPiece({20.0}).s;
    EXPECT_GT(moved, 0.3);
    EXPECT_EQ(piece().takes[1].alignment.basis, Basis::Set);
    undo();
    EXPECT_TRUE(piece().takes[1].alignment == before);
    const Piece still = piece();
    QTest::mousePress(&window.strip(), Qt::LeftButton, {}, inTakesLane(0, 4.0));
    QTest::mouseRelease(&window.strip(), Qt::LeftButton, {}, inTakesLane(0, 4.0));
    EXPECT_TRUE(piece() == still);
    EXPECT_EQ(window.transport().take(), 0U);
}

TEST_F(TakesBench, ATakeIsRemovedAndComesBackWithItsSound) {
    openDemo();
    window.transport().setTake(1);
    for (QPushButton* button : window.findChild<QWidget*>("take")->findChildren<QPushButton*>())
        if (button->text() == "Remove")
            button->click();
    ASSERT_EQ(piece().takes.size(), 1U);
    EXPECT_EQ(window.transport().take(), 0U);
    undo();
    ASSERT_EQ(piece().takes.size(), 2U);
    EXPECT_NE(window.document().media(1), nullptr);
}

TEST_F(TakesBench, APartIsKeptAndHeardAndWhatWasSetSurvives) {
    openDemo();
    const NoteId kept = piece().notes[10].id;
    window.selection().choose(kept);
    QTest::keyClick(&window.strip(), Qt::Key_Return);
    ASSERT_TRUE(piece().plan(kept)->position.isSet());
    const std::size_t before = piece().notes.size();
    window.transport().setLoop(TimeRange{2.0, 9.0});
    QTest::keyClick(&window.strip(), Qt::Key_E);
    const int steps = window.document().undoStack().index();
    ASSERT_TRUE(QTest::qWaitFor([&] { return window.document().undoStack().index() > steps; },
                                kPatience_ms));
    EXPECT_TRUE(piece().plan(kept)->position.isSet());
    EXPECT_NEAR(static_cast<double>(piece().notes.size()), static_cast<double>(before), 2.0)
        << "the same notes, not twice";
    EXPECT_TRUE(checkPiece(piece()).ok());
    // Trimmed to the loop, and back.
    for (const bool trimmed : {true, false}) {
        for (QPushButton* button : window.findChild<QWidget*>("take")->findChildren<QPushButton*>())
            if (button->text().startsWith("Keep"))
                button->click();
        EXPECT_EQ(!piece().takes[0].trim.empty(), trimmed);
        window.transport().setLoop({});
        QTest::qWait(5);
    }
}

TEST_F(TakesBench, ThePanelSteersTheListening) {
    openDemo();
    auto* panel = window.findChild<QWidget*>("listen");
    ASSERT_NE(panel, nullptr);
    panel->findChild<QSlider*>("speed")->setValue(60);
    EXPECT_NEAR(window.transport().listen().speed, 0.6, 1e-9);
    panel->findChild<QCheckBox*>("band")->setChecked(true);
    ASSERT_TRUE(window.transport().listen().band);
    panel->findChild<QCheckBox*>("without_drums")->setChecked(true);
    EXPECT_TRUE(window.transport().listen().without_drums);
    for (auto* box : panel->findChildren<QSpinBox*>()) {
        if (box->accessibleName().startsWith("Pitch in semitones"))
            box->setValue(2);
        if (box->accessibleName().startsWith("Pitch in cents"))
            box->setValue(14);
        if (box->accessibleName().startsWith("Clicks"))
            box->setValue(4);
        if (box->accessibleName().startsWith("Lowest"))
            box->setValue(45);
    }
    EXPECT_NEAR(window.transport().listen().semitones, 2.14, 1e-9);
    EXPECT_EQ(window.transport().listen().count_in, 4);
    EXPECT_EQ(window.transport().listen().band->low_midi, 45);
    // As the take is 6 cents flat, "to A4 = 440 Hz" raises it by those.
    for (auto* button : panel->findChildren<QPushButton*>())
        if (button->text().startsWith("to A4"))
            button->click();
    EXPECT_NEAR(window.transport().listen().semitones, 2.0 + 0.06, 0.01);
    // Opening another piece starts as recorded; what is a habit stays.
    window.openPath(QString::fromStdString(demo().take.string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return piece().takes.size() == 1; }, kPatience_ms));
    EXPECT_DOUBLE_EQ(window.transport().listen().speed, 1.0);
    EXPECT_EQ(window.transport().listen().count_in, 4);
}

TEST_F(TakesBench, APitchIsTypedByItsName) {
    PitchBox box;
    box.setValue(52);
    EXPECT_EQ(box.text(), "E3");
    box.findChild<QLineEdit*>()->setText("Bb2");
    box.interpretText();
    EXPECT_EQ(box.value(), 46);
    box.findChild<QLineEdit*>()->setText("H9");
    box.interpretText();
    EXPECT_EQ(box.value(), 46) << "what is no pitch changes nothing";
}

TEST_F(TakesBench, AMissingSecondTakeIsSaidAndFoundAgain) {
    std::filesystem::create_directories(scratch / "there");
    for (const auto& file : {demo().take, demo().slow, demo().piece})
        std::filesystem::copy_file(file, scratch / "there" / file.filename());
    std::filesystem::rename(scratch / "there" / demo().slow.filename(), scratch / "gone.webm");
    window.openPath(QString::fromStdString((scratch / "there" / demo().piece.filename()).string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
    EXPECT_TRUE(window.findChild<QLabel*>("bannerText")->text().contains("is not there"));
    EXPECT_NE(window.document().media(0), nullptr);
    EXPECT_EQ(window.document().media(1), nullptr);
    window.transport().setTake(1);
    window.opening().useRecording(QString::fromStdString((scratch / "gone.webm").string()));
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return window.document().media(1) != nullptr; }, kPatience_ms));
    EXPECT_TRUE(window.document().modified()) << "the new place must be saved";
    window.document().undoStack().undo();
    EXPECT_EQ(window.document().media(1), nullptr) << "as it was: missing";
    window.document().undoStack().redo();
    EXPECT_NE(window.document().media(1), nullptr);
}

TEST_F(TakesBench, ABetterCopyTakesThePlaceAndWhatIsDecidedMovesWithIt) {
    openDemo();
    const Piece before = piece();
    const std::string copy = (scratch / "copy.flac").string();
    test::ffmpeg("-ss 0.5 -i " + demo().take.string() + " -af volume=-6dB " + copy);
    window.transport().setTake(0);
    auto* another = window.findChild<QWidget*>("take")->findChild<QPushButton*>("findRecording");
    EXPECT_EQ(another->text(), "Another copy…");
    window.opening().useRecording(QString::fromStdString(copy));
    ASSERT_TRUE(QTest::qWaitFor([&] { return piece().lead()->path == copy; }, kPatience_ms));
    ASSERT_EQ(piece().notes.size(), before.notes.size());
    EXPECT_NEAR(piece().notes[0].onset_s(), before.notes[0].onset_s() - 0.5, 0.004);
    EXPECT_EQ(piece().asPlayed().plans, before.asPlayed().plans);
    EXPECT_NE(window.document().media(0), nullptr);
    EXPECT_TRUE(window.findChild<QLabel*>("bannerText")
                    ->text()
                    .startsWith("“copy.flac” holds the same performance and takes its place, it "
                                "begins 0.50 s later. All notes stay"));
    window.document().undoStack().undo();
    EXPECT_EQ(piece().notes, before.notes);
    // Another performance is refused, and nothing changes.
    window.document().edit(
        "remove", 0.0, [](PieceEditor& e) { return e.removeTake(1); }, Resolve::Nothing);
    window.opening().useRecording(QString::fromStdString(demo().slow.string()));
    ASSERT_TRUE(QTest::qWaitFor(
        [&] {
            return window.findChild<QLabel*>("bannerText")
                ->text()
                .contains("does not hold the same performance");
        },
        kPatience_ms));
    EXPECT_EQ(piece().notes, before.notes);
}

TEST_F(TakesBench, AnotherSoundOfTheSameFileIsChosenAndTakenBack) {
    const std::string file = (scratch / "two.mka").string();
    test::ffmpeg("-f lavfi -i sine=220:duration=2 -f lavfi -i sine=440:duration=2 -map 0 -map 1 "
                 "-c:a flac " +
                 file);
    window.openPath(QString::fromStdString(file));
    ASSERT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
    ASSERT_TRUE(QTest::qWaitFor([&] { return !piece().notes.empty(); }, kPatience_ms));
    const auto crossings = [&] { // of the sound that would be played, in its first second
        std::vector<float> samples(44100);
        window.document().media(0)->playing->read(11025, samples);
        int count = 0;
        for (std::size_t i = 2; i < samples.size(); i += 2)
            count += samples[i - 2] < 0.0F && samples[i] >= 0.0F ? 1 : 0;
        return 2.0 * count;
    };
    EXPECT_NEAR(crossings(), 220.0, 4.0);
    pick(fieldOf<QComboBox>("take", "Sound"), 1);
    ASSERT_TRUE(QTest::qWaitFor([&] { return piece().lead()->sound_stream == 1; }, kPatience_ms));
    EXPECT_NEAR(crossings(), 440.0, 4.0);
    window.document().undoStack().undo();
    EXPECT_NEAR(crossings(), 220.0, 4.0);
}

TEST_F(TakesBench, NotesAppearWhileTheyAreHeardAndGoWhenItIsCancelled) {
    openDemo();
    std::size_t most = 0;
    QObject::connect(&window.takes(), &TakeCommands::heardMore, &window, [&] {
        most = std::max(most, window.takes().heardSoFar().size());
    });
    const auto before = piece().notes;
    QTest::keyClick(&window, Qt::Key_E);
    ASSERT_TRUE(QTest::qWaitFor([&] { return most > 5; }, kPatience_ms));
    window.jobs().cancel();
    ASSERT_TRUE(QTest::qWaitFor([&] { return !window.jobs().running(); }, kPatience_ms));
    EXPECT_TRUE(window.takes().heardSoFar().empty());
    EXPECT_EQ(piece().notes, before) << "cancelled: nothing half-written";
}

TEST_F(TakesBench, ALongRecordingIsNotHeardUnasked) {
    // Sixteen minutes of nearly nothing: it must open at once and say what to do.
    Sound sound = test::silence(16.0 * 60.0, 8000.0);
    for (std::size_t i = 0; i < sound.samples.size(); i += 40)
        sound.samples[i] = 0.2F;
    ASSERT_TRUE(writeWav(scratch / "long.wav", sound.view()).ok());
    window.openPath(QString::fromStdString((scratch / "long.wav").string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
    EXPECT_TRUE(piece().notes.empty());
    EXPECT_TRUE(window.findChild<QLabel*>("bannerText")->text().contains("press E"))
        << window.findChild<QLabel*>("bannerText")->text().toStdString();
}

TEST(Wording, AdviceNamesEveryFaultOnceAndNoneWhereThereIsNone) {
    Take take;
    EXPECT_TRUE(qualityAdvice(take).isEmpty()) << "nothing was measured";
    take.quality = {0.0, 50.0, 0.0, 0.0, 0.6, 22050.0, 0.0};
    EXPECT_TRUE(qualityAdvice(take).isEmpty());
    take.quality.neck_seen = 1.0;
    take.quality.neck_frets = 21.0;
    EXPECT_TRUE(qualityAdvice(take).isEmpty());
    take.quality.neck_seen = 0.5;
    take.quality.neck_frets = 7.0;
    EXPECT_TRUE(qualityAdvice(take).join("\n").contains("50 %"));
    EXPECT_TRUE(qualityAdvice(take).join("\n").contains("about 7 frets"));
    take.cautions = {SoundCaution::Clipped};
    take.quality = {0.01, 18.0, 14.0, 50.0, 1.8, 8000.0, 9.0, 0.0};
    const QStringList advice = qualityAdvice(take);
    EXPECT_EQ(advice.size(), 7);
    for (const char* word : {"clipped", "cancel", "18 dB", "50 Hz", "1.8 s", "8.0 kHz", "No neck"})
        EXPECT_TRUE(advice.join("\n").contains(word)) << word;
}

TEST(Wording, LongTimesAreSaidAsPeopleSayThem) {
    EXPECT_EQ(longTimeText(48.2), "48 s");
    EXPECT_EQ(longTimeText(755.0), "12 min");
    EXPECT_EQ(longTimeText(7385.0), "2 h 3 min");
}

} // namespace
} // namespace wirenote::app
