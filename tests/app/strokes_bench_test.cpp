// The Strokes bench: its card and its keys, which mean other things elsewhere.
#include "app/bench_fixture.h"

#include "app/commands/stroke_commands.h"
#include "piece/one_stroke.h"
#include "session/files.h"
#include "session/hand_picture.h"
#include "session/pluck_report.h"
#include "support/long_piece.h"
#include "support/pieces.h"

#include <QAction>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <algorithm>

namespace wirenote::app {
namespace {

class StrokesBench : public BenchTest {
  protected:
    StrokesBench() : BenchTest(BenchKind::Strokes) {
        EXPECT_TRUE(writeAny(test::longPiece(40), scratch / "p.wirenote").ok());
        window.openPath(QString::fromStdString((scratch / "p.wirenote").string()));
        EXPECT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
        settle();
        press(Qt::Key_Right);
    }
    Stroke stroke() { return piece().plan(window.selection().note())->stroke.value; }
    QPushButton* button(Stroke stroke) {
        return window.findChild<QPushButton*>(QString("stroke%1").arg(static_cast<int>(stroke)));
    }
};

TEST_F(StrokesBench, EveryStrokeHasAKeyHere) {
    const std::vector<std::pair<Qt::Key, Stroke>> keys = {{Qt::Key_P, Stroke::P},
                                                          {Qt::Key_I, Stroke::I},
                                                          {Qt::Key_M, Stroke::M},
                                                          {Qt::Key_A, Stroke::A},
                                                          {Qt::Key_C, Stroke::C},
                                                          {Qt::Key_U, Stroke::Up},
                                                          {Qt::Key_D, Stroke::Down},
                                                          {Qt::Key_0, Stroke::None},
                                                          {Qt::Key_G, Stroke::Ghost}};
    for (const auto& [key, expected] : keys) {
        press(key);
        EXPECT_EQ(stroke(), expected);
        EXPECT_TRUE(button(expected)->isChecked());
    }
    button(Stroke::A)->click();
    EXPECT_EQ(stroke(), Stroke::A);
}

TEST_F(StrokesBench, TheSameLettersMeanOtherThingsOnOtherBenches) {
    const std::size_t notes = piece().notes.size();
    window.showBench(BenchKind::Notes);
    const NoteId chosen = window.selection().note();
    const Stroke before = stroke();
    press(Qt::Key_A);
    EXPECT_EQ(piece().notes.size(), notes + 1) << "a note was added";
    undoAll();
    window.selection().choose(chosen);
    EXPECT_EQ(stroke(), before);
    // The menu shows a key only where it counts.
    const auto keyOf = [this](const QString& text) {
        for (const QAction* action : window.findChildren<QAction*>())
            if (action->text() == text)
                return action->shortcut().toString();
        return QString("no such action");
    };
    EXPECT_EQ(keyOf("Add a note here"), "A");
    window.showBench(BenchKind::Strokes);
    EXPECT_EQ(keyOf("Add a note here"), "");
}

TEST_F(StrokesBench, ItSaysWhatTheStrokesRestOn) {
    QString said;
    for (const QLabel* label : window.findChild<QWidget*>("strokes")->findChildren<QLabel*>())
        said += label->text();
    EXPECT_TRUE(said.contains("which is a guess")) << said.toStdString();
}

TEST_F(StrokesBench, TellsWhyTheChosenNoteIsStruckSo) {
    auto* why = window.findChild<QLabel*>("strokeWhy");
    ASSERT_NE(why, nullptr);
    EXPECT_TRUE(QTest::qWaitFor([&] { return why->text().contains("sure to"); }, kPatience_ms))
        << why->text().toStdString();
    press(Qt::Key_U);
    settle();
    EXPECT_TRUE(why->text().contains("decided by you")) << why->text().toStdString();
    auto* hand = window.findChild<QLabel*>("strokeHand");
    EXPECT_TRUE(
        QTest::qWaitFor([&] { return hand->text().contains("strokes a second"); }, kPatience_ms))
        << hand->text().toStdString();
    window.selection().choose(0);
    settle();
    EXPECT_TRUE(why->text().startsWith("Choose a note")) << why->text().toStdString();
}

TEST_F(StrokesBench, ASchoolIsChosenFollowedAndTakenBack) {
    auto* school = window.findChild<QComboBox*>("pluckingSchool");
    ASSERT_NE(school, nullptr);
    EXPECT_EQ(school->currentText(), "as it is played");
    const auto count = [this](Stroke stroke) {
        return std::ranges::count_if(piece().asPlayed().plans, [stroke](const NotePlan& plan) {
            return plan.stroke.value == stroke;
        });
    };
    const auto downs = count(Stroke::Down);
    ASSERT_GT(count(Stroke::Up), 0);
    pick(school, static_cast<int>(PluckingSchool::Down));
    settle();
    EXPECT_EQ(count(Stroke::Up), 0);
    EXPECT_GT(count(Stroke::Down), downs);
    pick(school, static_cast<int>(PluckingSchool::Im));
    settle();
    EXPECT_EQ(piece().asPlayed().head.tool.value, PluckingTool::Fingers);
    EXPECT_EQ(count(Stroke::Down), 0);
    EXPECT_GT(count(Stroke::M), 0);
    EXPECT_EQ(school->currentText(), "i and m in turn");
    undoAll();
    settle();
    EXPECT_EQ(count(Stroke::Down), downs);
    EXPECT_EQ(school->currentText(), "as it is played");
}

TEST_F(StrokesBench, TheHandIsDrawnWithWhatItPasses) {
    const HandPicture picture = handPicture(piece());
    ASSERT_FALSE(picture.turns.empty());
    for (std::size_t i = 1; i < picture.turns.size(); ++i)
        EXPECT_LE(picture.turns[i - 1].time_s, picture.turns[i].time_s);
    // A silent turn lies between two like ones, and goes the other way.
    for (std::size_t i = 1; i < picture.turns.size(); ++i)
        if (picture.turns[i].note == 0) {
            EXPECT_NE(picture.turns[i - 1].down, picture.turns[i].down) << i;
        }
    EXPECT_EQ(picture.pick.size(),
              static_cast<std::size_t>(std::ranges::count_if(
                  picture.turns, [](const HandTurn& turn) { return turn.note != 0; })));
}

// Pulled along the row, a stroke becomes that of all it passes; one step takes it back.
TEST_F(StrokesBench, AStrokeIsPaintedAlongTheRow) {
    const Piece before = piece();
    const auto& notes = before.notes;
    StrokeCommands commands(window.document(), window.selection());
    ASSERT_GE(notes.size(), 6U);
    window.selection().choose(notes[1].id);
    press(Qt::Key_U);
    commands.paintFrom(notes[1].id, notes[4].onset_s());
    for (std::size_t i = 1; i <= 4; ++i)
        EXPECT_EQ(piece().plan(notes[i].id)->stroke.value, Stroke::Up) << i;
    EXPECT_FALSE(piece().plan(notes[5].id)->stroke.isSet());
    window.document().undo();
    settle();
    EXPECT_FALSE(piece().plan(notes[3].id)->stroke.isSet());
    commands.paintFrom(9999, 1.0); // nothing is there
    commands.setStrokes({});
    EXPECT_FALSE(piece().plan(notes[3].id)->stroke.isSet());
}

TEST_F(StrokesBench, TheOtherWayThroughABarIsTakenByOneButton) {
    auto* button = window.findChild<QPushButton*>("otherWay");
    ASSERT_NE(button, nullptr);
    ASSERT_TRUE(QTest::qWaitFor([&] { return button->isVisible(); }, kPatience_ms));
    const Piece before = piece();
    button->click();
    settle();
    int set = 0;
    for (const NotePlan& plan : piece().asPlayed().plans)
        set += plan.stroke.isSet() ? 1 : 0;
    EXPECT_GE(set, 1);
    window.document().undo();
    settle();
    EXPECT_EQ(piece().asPlayed().plans, before.asPlayed().plans);
}

// All as loud, but for one stroke.
class OneLoudStroke : public BenchTest {
  protected:
    OneLoudStroke() : BenchTest(BenchKind::Strokes) {
        Piece loud = test::longPiece(40);
        for (Note& note : loud.notes)
            note.loudness_db = -20.0;
        const auto alone = [&loud](std::size_t n) {
            return !beginTogether(loud.notes[n - 1].onset_s(), loud.notes[n].onset_s()) &&
                   !beginTogether(loud.notes[n].onset_s(), loud.notes[n + 1].onset_s()) &&
                   !loud.notes[n].slurred();
        };
        while (!alone(at))
            ++at;
        loud.notes[at].loudness_db = -11.0;
        EXPECT_TRUE(writeAny(loud, scratch / "loud.wirenote").ok());
        window.openPath(QString::fromStdString((scratch / "loud.wirenote").string()));
        EXPECT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
        settle();
        press(Qt::Key_Right);
    }
    std::size_t at = 10;
};

TEST_F(OneLoudStroke, IsOfferedAsAnAccent) {
    auto* button = window.findChild<QPushButton*>("markAccents");
    ASSERT_NE(button, nullptr);
    ASSERT_TRUE(QTest::qWaitFor([&] { return button->isVisible(); }, kPatience_ms));
    button->click();
    settle();
    EXPECT_TRUE(piece().notes[at].has(Technique::Accent));
    EXPECT_TRUE(QTest::qWaitFor([&] { return !button->isVisible(); }, kPatience_ms));
    undoAll();
    EXPECT_FALSE(piece().notes[at].has(Technique::Accent));
}

// Bar 3 says bar 1 again, softer: its dynamics are offered, written in one step, and on the sheet.
class AnEcho : public BenchTest {
  protected:
    AnEcho() : BenchTest(BenchKind::Strokes) {
        std::vector<test::Row> rows;
        for (int k = 0; k < 32; ++k)
            rows.push_back({0.25 * k,
                            0.25 * k + 0.2,
                            (k / 8) % 2 == 0 ? 57 + k % 8 : 69 - k % 8,
                            {3, (k / 8) % 2 == 0 ? 2 + k % 8 : 14 - k % 8}});
        Piece echo = test::pieceOf(rows);
        for (std::size_t k = 16; k < 24; ++k)
            echo.notes[k].loudness_db = echo.notes[0].loudness_db - 5.0;
        EXPECT_TRUE(writeAny(echo, scratch / "echo.wirenote").ok());
        window.openPath(QString::fromStdString((scratch / "echo.wirenote").string()));
        EXPECT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
        settle();
        press(Qt::Key_Right);
    }
};

TEST_F(AnEcho, IsOfferedAsDynamics) {
    auto* button = window.findChild<QPushButton*>("writeDynamics");
    ASSERT_NE(button, nullptr);
    ASSERT_TRUE(QTest::qWaitFor([&] { return button->isVisible(); }, kPatience_ms));
    button->click();
    settle();
    std::string levels;
    for (const SheetMark& mark : piece().marks)
        levels += mark.text + " ";
    EXPECT_EQ(levels, "mf p mf ");
    EXPECT_TRUE(QTest::qWaitFor([&] { return !button->isVisible(); }, kPatience_ms))
        << "they stand there now";
    undoAll();
    EXPECT_TRUE(piece().marks.empty());
}

} // namespace
} // namespace wirenote::app
