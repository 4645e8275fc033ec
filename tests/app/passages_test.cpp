// Several notes chosen and decided at once.
#include "app/bench_fixture.h"

#include "app/text/wording.h"
#include "session/files.h"
#include "session/resolve.h"
#include "support/pieces.h"

#include <QAction>
#include <QMouseEvent>

namespace wirenote::app {
namespace {

// A scale with two chords in it.
Piece scaleWithChords() {
    std::vector<test::Row> rows;
    for (int i = 0; i < 24; ++i) {
        rows.push_back({0.4 * i, 0.4 * i + 0.35, 57 + (i * 2) % 12});
        if (i == 8 || i == 16)
            for (const int over : {4, 7})
                rows.push_back({0.4 * i + 0.01, 0.4 * i + 0.35, 57 + (i * 2) % 12 + over});
    }
    Piece piece = test::pieceOf(rows);
    placeAndStroke(piece);
    return piece;
}

class Passages : public BenchTest {
  protected:
    Passages() : BenchTest(BenchKind::Neck) {
        EXPECT_TRUE(writeAny(scaleWithChords(), scratch / "p.wirenote").ok());
        window.openPath(QString::fromStdString((scratch / "p.wirenote").string()));
        EXPECT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
        settle();
    }
    Selection& selection() { return window.selection(); }
    void chooseFrom(std::size_t first, std::size_t last) {
        selection().choose(piece().notes[first].id);
        selection().extendTo(piece().notes[last].id);
        settle();
    }
    QAction* action(const QString& text) {
        for (QAction* one : window.findChildren<QAction*>())
            if (one->text() == text)
                return one;
        return nullptr;
    }
};

TEST_F(Passages, GrowAndShrinkByArrows) {
    press(Qt::Key_Home);
    for (int i = 0; i < 3; ++i)
        press(Qt::Key_Right, Qt::ShiftModifier);
    EXPECT_EQ(selection().all().size(), 4U);
    EXPECT_EQ(selection().note(), piece().notes[3].id);
    press(Qt::Key_Left, Qt::ShiftModifier);
    EXPECT_EQ(selection().all().size(), 3U);
    press(Qt::Key_Right);
    EXPECT_EQ(selection().all().size(), 1U) << "a plain arrow chooses one";
}

TEST_F(Passages, AreChosenWithTheMouse) {
    const auto at = [&](std::size_t i) {
        return window.strip().noteCentre(piece().notes[i].id)->toPoint();
    };
    QTest::mouseClick(&window.strip(), Qt::LeftButton, {}, at(1));
    QTest::mouseClick(&window.strip(), Qt::LeftButton, Qt::ShiftModifier, at(5));
    EXPECT_EQ(selection().all().size(), 5U);
    QTest::mouseClick(&window.strip(), Qt::LeftButton, Qt::ControlModifier, at(3));
    EXPECT_EQ(selection().all().size(), 4U);
    EXPECT_FALSE(selection().isChosen(piece().notes[3].id));
    QTest::mouseDClick(&window.strip(), Qt::LeftButton, {}, at(9)); // one of a chord
    EXPECT_EQ(selection().all().size(), 3U);
    // Over the strip with Shift: what begins there, and no loop.
    const int y = 12; // the form lane, where no note is
    QTest::mousePress(&window.strip(), Qt::LeftButton, Qt::ShiftModifier, {at(2).x() - 12, y});
    QTest::mouseMove(&window.strip(), {at(4).x(), y});
    QTest::mouseMove(&window.strip(), {at(4).x() + 2, y});
    QTest::mouseRelease(&window.strip(), Qt::LeftButton, Qt::ShiftModifier, {at(4).x() + 2, y});
    EXPECT_EQ(selection().all().size(), 3U);
    EXPECT_FALSE(window.transport().loop());
}

TEST_F(Passages, AreDecidedAtOnceAndUndoneAtOnce) {
    const Piece before = piece();
    chooseFrom(2, 6);
    press(Qt::Key_U);
    for (std::size_t i = 2; i <= 6; ++i) {
        EXPECT_EQ(piece().asPlayed().plans[i].stroke.value, Stroke::Up);
        EXPECT_TRUE(piece().asPlayed().plans[i].stroke.isSet());
    }
    EXPECT_FALSE(piece().asPlayed().plans[7].stroke.isSet());
    EXPECT_EQ(window.document().undoStack().count(), 1);
    undo();
    EXPECT_TRUE(piece() == before);
    press(Qt::Key_Up, Qt::ControlModifier | Qt::ShiftModifier); // an octave up, each its own
    for (std::size_t i = 2; i <= 6; ++i)
        EXPECT_EQ(piece().notes[i].midi(), before.notes[i].midi() + 12);
    undo();
    press(Qt::Key_Return);
    for (std::size_t i = 2; i <= 6; ++i)
        EXPECT_TRUE(piece().asPlayed().plans[i].position.isSet());
    undo();
    chooseFrom(2, 6); // it went on to the next doubt
    press(Qt::Key_Delete);
    EXPECT_EQ(piece().notes.size(), before.notes.size() - 5);
    undo();
    EXPECT_TRUE(piece() == before);
}

TEST_F(Passages, AreTakenToAPosition) {
    chooseFrom(0, 7);
    QAction* fifth = action("fifth position");
    ASSERT_NE(fifth, nullptr);
    const Piece before = piece();
    fifth->trigger();
    settle();
    int there = 0;
    for (std::size_t i = 0; i <= 7; ++i) {
        const auto& plan = piece().asPlayed().plans[i];
        EXPECT_TRUE(!plan.position.isSet() ||
                    (plan.position.value.fret >= 5 && plan.position.value.fret <= 8));
        there += plan.position.isSet() ? 1 : 0;
    }
    EXPECT_GE(there, 6);
    EXPECT_EQ(window.document().undoStack().count(), 1);
    undo();
    EXPECT_TRUE(piece() == before);
}

TEST_F(Passages, ArePlayedWithTheFingersAlthoughTheRestIsNot) {
    chooseFrom(2, 7);
    const Piece before = piece();
    QAction* fingers = action("All of it: " + toolText(PluckingTool::Fingers));
    ASSERT_NE(fingers, nullptr);
    fingers->trigger();
    settle();
    for (std::size_t i = 2; i <= 7; ++i) {
        const auto& stroke = piece().asPlayed().plans[i].stroke;
        EXPECT_TRUE(stroke.isSet());
        EXPECT_TRUE(stroke.value == Stroke::P || stroke.value == Stroke::I ||
                    stroke.value == Stroke::M || stroke.value == Stroke::A)
            << i;
    }
    EXPECT_FALSE(piece().asPlayed().plans[8].stroke.isSet());
    EXPECT_EQ(piece().asPlayed().head.tool, before.asPlayed().head.tool);
    undo();
    EXPECT_TRUE(piece() == before);
}

// All or nothing: what cannot be done to one of them is done to none.
TEST_F(Passages, AreRefusedAsAWhole) {
    const Piece before = piece();
    chooseFrom(0, 5);
    press(Qt::Key_6);
    const bool all = std::ranges::all_of(
        selection().all(), [&](NoteId id) { return piece().plan(id)->position.value.string == 6; });
    EXPECT_TRUE(all || piece() == before);
    EXPECT_FALSE(all) << "these notes are not all on the thickest string's neck";
}

} // namespace
} // namespace wirenote::app
