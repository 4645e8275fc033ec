// Keys stay in the field they are typed in; menus tell what is; what takes much away is asked
// about.
#include "app/bench_fixture.h"

#include "session/files.h"
#include "support/long_piece.h"

#include <QAction>
#include <QApplication>
#include <QContextMenuEvent>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QMenu>
#include <QMessageBox>
#include <QPushButton>
#include <QSlider>
#include <QTimer>

namespace wirenote::app {
namespace {

class Fields : public BenchTest {
  protected:
    Fields() : BenchTest(BenchKind::Pulse) {
        EXPECT_TRUE(writeAny(test::longPiece(60), scratch / "p.wirenote").ok());
        window.openPath(QString::fromStdString((scratch / "p.wirenote").string()));
        EXPECT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
        settle();
        window.activateWindow();
        window.selection().choose(piece().notes[5].id);
        settle();
    }
    void type(QWidget& field, Qt::Key key) {
        QTest::keyClick(&field, key);
        settle();
    }
    // The notes and their plans: what no key in a field may touch.
    auto tab() { return std::pair{piece().notes, piece().readings}; }
    QAction* action(const QString& text) {
        for (QAction* one : window.findChildren<QAction*>())
            if (one->text() == text)
                return one;
        return nullptr;
    }
};

TEST_F(Fields, ArrowsLettersAndReturnStayInAField) {
    auto* tempo = named<QDoubleSpinBox>("Tempo in beats a minute");
    ASSERT_NE(tempo, nullptr);
    tempo->setFocus();
    ASSERT_TRUE(tempo->hasFocus());
    const auto before = tab();
    const double bpm = tempo->value();
    type(*tempo, Qt::Key_Up);
    EXPECT_DOUBLE_EQ(tempo->value(), bpm + 1.0);
    for (const Qt::Key key : {Qt::Key_U, Qt::Key_Delete, Qt::Key_Down, Qt::Key_S, Qt::Key_N})
        type(*tempo, key);
    EXPECT_EQ(tab().first, before.first) << "no command was run";
    tempo->findChild<QLineEdit*>()->setText("77");
    type(*tempo, Qt::Key_Return);
    EXPECT_NEAR(piece().timeline.tempo_bpm, 77.0, 0.1) << "Return commits what was typed";
    EXPECT_FALSE(piece().plan(window.selection().note())->position.isSet() &&
                 piece().note(window.selection().note())->pitch.isSet() &&
                 !before.first[5].pitch.isSet())
        << "and accepts no note";
}

TEST_F(Fields, EscapeLeavesTheFieldAsItWasAndGivesTheKeyboardBack) {
    auto* tempo = named<QDoubleSpinBox>("Tempo in beats a minute");
    const double bpm = piece().timeline.tempo_bpm;
    tempo->setFocus();
    tempo->findChild<QLineEdit*>()->selectAll();
    QTest::keyClicks(tempo, "55");
    type(*tempo, Qt::Key_Escape);
    EXPECT_TRUE(window.strip().hasFocus());
    EXPECT_DOUBLE_EQ(piece().timeline.tempo_bpm, bpm);
    const auto before = tab();
    press(Qt::Key_U); // the strip's keys are commands again
    EXPECT_NE(tab().second, before.second);
}

TEST_F(Fields, AClickedButtonLeavesTheKeyboardWhereItWas) {
    window.strip().setFocus();
    auto* slower = named<QPushButton>("slower");
    QTest::mouseClick(slower, Qt::LeftButton);
    EXPECT_TRUE(window.strip().hasFocus());
    window.document().undoStack().undo();
    slower->setFocus(Qt::TabFocusReason); // who comes by Tab presses it by the space bar
    const double bpm = piece().timeline.tempo_bpm;
    type(*slower, Qt::Key_Space);
    EXPECT_NE(piece().timeline.tempo_bpm, bpm);
    EXPECT_FALSE(window.transport().playing());
}

TEST_F(Fields, ASliderIsTurnedByArrowsAndLetsLettersThrough) {
    window.showBench(BenchKind::Takes);
    auto* speed = window.findChild<QSlider*>("speed");
    speed->setFocus();
    const int before = speed->value();
    type(*speed, Qt::Key_Left);
    EXPECT_LT(speed->value(), before);
    const auto stroke = piece().plan(window.selection().note())->stroke.value;
    type(*speed, stroke == Stroke::Up ? Qt::Key_D : Qt::Key_U);
    EXPECT_NE(piece().plan(window.selection().note())->stroke.value, stroke);
}

TEST_F(Fields, WhatIsAcceptedIsSaid) {
    window.strip().setFocus();
    press(Qt::Key_Return);
    EXPECT_TRUE(window.findChild<QLabel*>("bannerText")->text().contains("is right"));
}

// The menu shows what the chosen note is; what excludes each other does so.
TEST_F(Fields, TechniquesTickAndExcludeEachOther) {
    QAction* hammer = action("hammer-on");
    QAction* pull = action("pull-off");
    QAction* vibrato = action("vibrato");
    ASSERT_TRUE(hammer && pull && vibrato);
    for (QAction* one : {hammer, pull, vibrato})
        if (one->isChecked())
            one->trigger();
    vibrato->trigger();
    hammer->trigger();
    EXPECT_TRUE(hammer->isChecked());
    pull->trigger();
    const Note& note = *piece().note(window.selection().note());
    EXPECT_TRUE(note.has(Technique::PullOff) && !note.has(Technique::HammerOn));
    EXPECT_TRUE(note.has(Technique::Vibrato)) << "which goes with both";
    EXPECT_TRUE(pull->isChecked() && vibrato->isChecked());
    EXPECT_FALSE(hammer->isChecked());
    window.selection().choose(piece().notes[30].id);
    EXPECT_EQ(pull->isChecked(), piece().notes[30].has(Technique::PullOff));
}

TEST_F(Fields, TitleNamesAndKeyAreSetOnTheSheetBench) {
    window.showBench(BenchKind::Sheet);
    const auto set = [&](const char* name, const QString& text) {
        auto* field = fieldOf<QLineEdit>("piece", name);
        ASSERT_NE(field, nullptr) << name;
        field->setText(text);
        emit field->editingFinished();
    };
    set("Title", "Low Water");
    set("By", "Ada Example");
    set("Played by", "Ben Example");
    set("Written down by", "Cleo Example");
    EXPECT_EQ(piece().title, "Low Water");
    EXPECT_EQ(piece().about, (About{"Ada Example", "Ben Example", "Cleo Example"}));
    EXPECT_TRUE(window.windowTitle().contains("Low Water"));
    set("Title", "");
    EXPECT_EQ(piece().title, "Low Water") << "not without a title";
    pick(fieldOf<QComboBox>("piece", "Key"), -3);
    EXPECT_EQ(piece().key.fifths, -3);
    undoAll();
    EXPECT_NE(piece().title, "Low Water");
}

class Eyes : public Fields {};

// Choosing by arrows takes the playhead along; Home chooses the first note.
TEST_F(Eyes, ThePlayheadFollowsTheChosenNote) {
    window.strip().setFocus();
    press(Qt::Key_Right);
    EXPECT_DOUBLE_EQ(window.transport().playhead_s(), piece().notes[6].onset_s());
    press(Qt::Key_Home);
    EXPECT_EQ(window.selection().note(), piece().notes.front().id);
    EXPECT_DOUBLE_EQ(window.transport().playhead_s(), piece().notes.front().onset_s());
}

TEST_F(Eyes, ANoteIsSplitUnderThePointer) {
    window.showBench(BenchKind::Neck);
    settle();
    const Note note = piece().notes[7];
    window.selection().choose(note.id);
    settle();
    const auto head = window.strip().noteCentre(note.id);
    ASSERT_TRUE(head);
    const double per_s = (window.strip().noteCentre(piece().notes[8].id)->x() - head->x()) /
                         (piece().notes[8].onset_s() - note.onset_s());
    const double middle_s = 0.5 * (note.onset_s() + note.offset_s());
    QTest::mouseMove(&window.strip(),
                     QPoint(static_cast<int>(head->x() + per_s * (middle_s - note.onset_s()) - 8),
                            static_cast<int>(head->y())));
    window.transport().seek(0.0); // the playhead is elsewhere
    press(Qt::Key_S);
    ASSERT_EQ(piece().notes[8].pitch.value, note.pitch.value) << "two of them now";
    EXPECT_NEAR(piece().notes[8].onset_s(), middle_s, 0.03);
}

TEST_F(Eyes, ADoubleClickAddsNothingAndTheRightButtonOffersWhatCanBeDone) {
    window.showBench(BenchKind::Neck);
    settle();
    const std::size_t notes = piece().notes.size();
    const auto head = window.strip().noteCentre(piece().notes[2].id);
    const QPoint empty(static_cast<int>(head->x()) + 3, window.strip().height() / 2);
    QTest::mouseDClick(&window.strip(), Qt::LeftButton, {}, empty);
    settle();
    EXPECT_EQ(piece().notes.size(), notes);
    QContextMenuEvent wanted(
        QContextMenuEvent::Mouse, head->toPoint(), window.strip().mapToGlobal(head->toPoint()));
    QApplication::sendEvent(&window.strip(), &wanted);
    EXPECT_EQ(window.selection().note(), piece().notes[2].id) << "the note under the pointer";
    auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
    ASSERT_NE(menu, nullptr);
    EXPECT_TRUE(menu->actions().contains(action("Add a note here")));
    menu->close();
}

class Hearing : public BenchTest {
  protected:
    Hearing() : BenchTest(BenchKind::Notes) {}
};

// One step back too many does not take away everything that was heard.
TEST_F(Hearing, IsNotTakenBackUnasked) {
    window.openPath(QString::fromStdString(demo().take.string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return !piece().notes.empty(); }, kPatience_ms));
    settle();
    const std::size_t notes = piece().notes.size();
    press(Qt::Key_Right);
    press(Qt::Key_Up);
    const auto answer = [this](const char* wanted) {
        QTimer::singleShot(50, &window, [wanted] {
            if (auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget()))
                for (auto* button : box->buttons())
                    if (button->text().remove('&') == wanted)
                        button->click();
        });
    };
    press(Qt::Key_Z, Qt::ControlModifier); // the fret, unasked
    EXPECT_EQ(piece().notes.size(), notes);
    answer("Cancel");
    press(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(piece().notes.size(), notes) << "asked, and left";
    window.activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowActive(&window));
    answer("Take it back");
    press(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_TRUE(piece().notes.empty())
        << window.document().undoStack().count()
        << " steps, the next back: " << window.document().undoStack().undoText().toStdString();
    window.activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowActive(&window));
    press(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(piece().notes.size(), notes) << "and done again";
}

} // namespace
} // namespace wirenote::app
