// The Strokes bench: its card and its keys, which mean other things elsewhere.
#include "app/bench_fixture.h"

#include "session/files.h"
#include "support/long_piece.h"

#include <QAction>
#include <QPushButton>

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

} // namespace
} // namespace wirenote::app
