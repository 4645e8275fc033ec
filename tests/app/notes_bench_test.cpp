// The Notes bench, driven as a person would: parts of the recording, slips, what sounds here.
#include "app/bench_fixture.h"
#include "app/benches/notes/partials_view.h"
#include "app/benches/notes/span_card.h"
#include "app/benches/notes/stiffness_map.h"
#include "app/commands/take_commands.h"
#include "app/playing/listen_panel.h"

#include "media/sound_file.h"
#include "session/files.h"
#include "session/note_partials.h"
#include "sounding/render.h"
#include "support/pieces.h"

#include <QApplication>
#include <QCheckBox>
#include <QFile>
#include <QFileInfo>
#include <QFocusEvent>
#include <QPushButton>
#include <QRegularExpression>
#include <cmath>

namespace wirenote::app {
namespace {

class NotesBench : public BenchTest {
  protected:
    NotesBench() : BenchTest(BenchKind::Notes) {}
    QPushButton* part(SoundPart part) {
        return window.findChild<QPushButton*>(QString("part%1").arg(static_cast<int>(part)));
    }
};

TEST_F(NotesBench, APartOfTheRecordingIsHeardByKeyAndByButton) {
    openDemo();
    EXPECT_FALSE(part(SoundPart::Note)->isEnabled()) << "no note is chosen";
    press(Qt::Key_O);
    EXPECT_EQ(window.transport().part(), SoundPart::All);
    press(Qt::Key_Right);
    press(Qt::Key_O);
    EXPECT_EQ(window.transport().part(), SoundPart::Note);
    EXPECT_TRUE(part(SoundPart::Note)->isChecked());
    press(Qt::Key_Y);
    EXPECT_EQ(window.transport().part(), SoundPart::String);
    part(SoundPart::AllButNote)->click();
    EXPECT_EQ(window.transport().part(), SoundPart::AllButNote);
    press(Qt::Key_Right); // another note is left out now
    EXPECT_EQ(window.transport().part(), SoundPart::AllButNote);
    window.transport().play();
    EXPECT_TRUE(
        QTest::qWaitFor([&] { return window.transport().playhead_s() > 0.2; }, kPatience_ms))
        << "it plays, whatever part is heard";
    window.transport().pause();
    press(Qt::Key_C);
    EXPECT_EQ(window.transport().part(), SoundPart::All);
}

TEST_F(NotesBench, ASlipIsMarkedSaidAndTakenBack) {
    openDemo();
    press(Qt::Key_Right);
    press(Qt::Key_Right);
    const Piece before = piece();
    press(Qt::Key_F);
    ASSERT_TRUE(piece().notes[1].slip.has_value());
    EXPECT_EQ(piece().notes[1].slip->meant_midi, 0);
    EXPECT_EQ(window.document().written().notes.size(), piece().notes.size());
    window.document().putSlipsRight(true);
    EXPECT_EQ(window.document().written().notes.size(), piece().notes.size() - 1);
    auto* any = window.findChild<QCheckBox*>("meantAny");
    ASSERT_NE(any, nullptr);
    any->click();
    QTest::qWait(20);
    auto* meant = window.findChild<PitchBox*>("meant");
    ASSERT_NE(meant, nullptr);
    meant->setValue(piece().notes[1].midi() + 2);
    QTest::qWait(20);
    EXPECT_EQ(window.document().written().notes[1].midi(), piece().notes[1].midi() + 2);
    meant = window.findChild<PitchBox*>("meant");
    ASSERT_NE(meant, nullptr);
    meant->setFocus();
    meant->stepUp();
    QTest::qWait(30);
    EXPECT_EQ(piece().notes[1].slip->meant_midi, piece().notes[1].midi() + 3);
    EXPECT_NE(window.findChild<PitchBox*>("meant")->focusWidget(), nullptr);
    while (window.document().undoStack().canUndo())
        window.document().undoStack().undo();
    EXPECT_TRUE(piece() == before);
}

TEST_F(NotesBench, TheWholeTakesStiffnessIsShownAndDecidedThere) {
    openDemo();
    press(Qt::Key_8);
    auto* map = window.findChild<StiffnessMap*>("stiffnessMap");
    ASSERT_NE(map, nullptr);
    EXPECT_TRUE(map->isVisible());
    NoteId told = 0;
    const auto otherString = [this](const Note& note) {
        for (int s = 1; s <= 6; ++s)
            if (s != piece().plan(note.id)->position.value.string &&
                piece().instrument.fretFor(s, note.midi()) >= 0)
                return s;
        return 0;
    };
    for (const Note& note : piece().notes)
        if (note.heard().stiffness.told() && otherString(note) > 0)
            told = note.id;
    ASSERT_NE(told, 0);
    const auto place = map->placeOf(told);
    ASSERT_TRUE(place.has_value());
    QTest::mouseClick(map, Qt::LeftButton, {}, place->toPoint());
    const Note* chosen = piece().note(window.selection().note());
    ASSERT_NE(chosen, nullptr);
    EXPECT_EQ(chosen->midi(), piece().note(told)->midi());
    EXPECT_TRUE(window.transport().playing()) << "it is heard";
    const int string = otherString(*chosen);
    ASSERT_GT(string, 0);
    press(static_cast<Qt::Key>(Qt::Key_0 + string));
    EXPECT_EQ(piece().plan(chosen->id)->position.value.string, string);
    press(Qt::Key_8);
    EXPECT_FALSE(map->isVisible());
    EXPECT_TRUE(window.strip().isVisible());
}

// The partials of a note: measured when asked for, of each note chosen then, and put away again.
TEST_F(NotesBench, ThePartialsOfANoteAreShownOnDemand) {
    openDemo();
    window.showBench(BenchKind::Neck);
    press(Qt::Key_Right);
    const auto view = [this] { return window.findChild<PartialsView*>("partials"); };
    EXPECT_EQ(view(), nullptr) << "nobody asked";
    press(Qt::Key_9);
    ASSERT_TRUE(QTest::qWaitFor([&] { return view() != nullptr; }, kPatience_ms));
    EXPECT_GT(view()->fit().partials.size(), 4U);
    const double first_hz = view()->fit().f0_hz;
    press(Qt::Key_Right);
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return view() && std::abs(view()->fit().f0_hz - first_hz) > 1.0; }, kPatience_ms));
    auto* hide = window.findChild<QPushButton*>("partialsToggle");
    ASSERT_NE(hide, nullptr);
    hide->click();
    ASSERT_TRUE(QTest::qWaitFor([&] { return view() == nullptr; }, kPatience_ms));
}

// Where the recording is gone, the card says so instead.
TEST_F(NotesBench, PartialsOfALostRecordingAreRefusedInOneSentence) {
    Piece lost = test::pieceOf({{0.5, 1.0, 64, {2, 5}}});
    Take take;
    take.name = "gone";
    take.path = (scratch / "gone.wav").string();
    take.length_s = 2.0;
    lost.takes = {take};
    const auto probed = partialsOf(lost, lost.notes.front().id, {});
    ASSERT_FALSE(probed.ok());
    EXPECT_NE(probed.error().sentence().find("gone.wav"), std::string::npos);
    EXPECT_FALSE(partialsOf(lost, 999, {}).ok());
    lost.takes.clear();
    EXPECT_FALSE(partialsOf(lost, lost.notes.front().id, {}).ok());
}

// A calibration take by the simulated instrument: heard, used, kept for other pieces, taken back.
TEST_F(NotesBench, AnInstrumentIsCalibratedByARecordingAndKept) {
    openDemo();
    const Piece before = piece();
    std::vector<test::Row> rows;
    double t = 0.4;
    for (int string = 6; string >= 1; --string)
        for (const int fret : {0, 12}) {
            rows.push_back({t, t + 1.3, piece().instrument.midiAt({string, fret}), {string, fret}});
            t += 1.5;
        }
    const auto sound = renderPiece(test::pieceOf(rows), {}, {});
    ASSERT_TRUE(sound.ok());
    ASSERT_TRUE(writeWav(scratch / "my strings.wav", sound->view()).ok());
    const QString recording = QString::fromStdString((scratch / "my strings.wav").string());
    window.takes().calibrate(recording);
    ASSERT_TRUE(QTest::qWaitFor(
        [&] {
            return !piece().string_traits.empty() &&
                   piece().string_traits.front().basis == Basis::Set;
        },
        kPatience_ms));
    const auto traits = piece().string_traits;
    const QString kept = TakeCommands::profilesFolder() + "/my strings.calibration.json";
    EXPECT_TRUE(QFileInfo::exists(kept));
    window.takes().calibrate(recording); // again: the first stays
    const QString second = TakeCommands::profilesFolder() + "/my strings 2.calibration.json";
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return QFileInfo::exists(second) && !window.jobs().running(); }, kPatience_ms));
    EXPECT_TRUE(QFileInfo::exists(kept));
    QFile::remove(second);
    window.takes().forgetCalibration();
    EXPECT_NE(piece().string_traits, traits);
    window.takes().useCalibration(kept);
    for (std::size_t s = 0; s < traits.size(); ++s)
        EXPECT_NEAR(
            piece().string_traits[s].log_factor, traits[s].log_factor, 1e-4); // as it is stored
    while (window.document().undoStack().canUndo())
        window.document().undoStack().undo();
    EXPECT_TRUE(piece() == before);
    window.takes().useCalibration(recording); // not a calibration
    QTest::qWait(20);
    EXPECT_TRUE(piece() == before);
    QFile::remove(kept);
}

TEST_F(NotesBench, TheCardSaysWhatSoundsInTheLoop) {
    openDemo();
    auto* card = window.findChild<SpanCard*>("span");
    ASSERT_NE(card, nullptr);
    EXPECT_TRUE(card->isVisible());
    const auto said = [card] {
        QString all;
        for (const QLabel* label : card->findChildren<QLabel*>())
            all += label->text() + "\n";
        return all;
    };
    EXPECT_TRUE(said().contains(QString("%1 notes").arg(piece().notes.size())))
        << said().toStdString();
    EXPECT_TRUE(said().contains("E minor")) << said().toStdString(); // the demo is in E minor
    window.transport().setLoop(TimeRange{0.0, 0.1});
    settle();
    EXPECT_TRUE(said().contains("No note in the loop")) << said().toStdString();
    window.showBench(BenchKind::Neck);
    EXPECT_FALSE(card->isVisible());
}

TEST_F(NotesBench, NotesOutsideTheScaleAreShownOneAfterTheOther) {
    openDemo();
    press(Qt::Key_Right);
    const int before = piece().notes[0].midi();
    for (int i = 0; i < 4; ++i) // E up to G sharp, in no minor scale on E
        QTest::keyClick(&window.strip(), Qt::Key_Up, Qt::ShiftModifier);
    settle();
    ASSERT_EQ(piece().notes[0].midi(), before + 4);
    auto* outside = window.findChild<QPushButton*>("outside");
    ASSERT_TRUE(outside->isEnabled()) << outside->text().toStdString();
    press(Qt::Key_Right);
    outside->click();
    QTest::qWait(20);
    EXPECT_NEAR(window.transport().playhead_s(), piece().notes[0].onset_s(), 1e-6);
}

// A line whose places hang together: another string for one note moves others.
TEST_F(NotesBench, ARunnerUpShowsWhatItWouldChangeWhileItHasTheFocus) {
    ASSERT_TRUE(writeAny(test::scalePiece(16), scratch / "scale.wirenote").ok());
    window.openPath(QString::fromStdString((scratch / "scale.wirenote").string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
    ASSERT_TRUE(window.document().edit(
        "place", 0.0, [](PieceEditor& e) { return e.setTempo(120.0); }, Resolve::WholePiece));
    window.selection().choose(piece().notes[4].id);
    settle();
    settle();
    const auto others =
        window.findChild<QWidget*>("why")->findChildren<QPushButton*>(QRegularExpression("^other"));
    ASSERT_FALSE(others.isEmpty());
    std::size_t most = 0;
    for (QPushButton* other : others) {
        QFocusEvent in(QEvent::FocusIn);
        QApplication::sendEvent(other, &in);
        EXPECT_EQ(!window.selection().marked().empty(), other->text().contains('\n'))
            << other->text().toStdString();
        most = std::max(most, window.selection().marked().size());
        QFocusEvent out(QEvent::FocusOut);
        QApplication::sendEvent(other, &out);
        EXPECT_TRUE(window.selection().marked().empty());
    }
    EXPECT_GT(most, 0U);
    EXPECT_EQ(window.selection().all().size(), 1U) << "the choice stays";
}

} // namespace
} // namespace wirenote::app
