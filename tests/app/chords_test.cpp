// The chord tool, decisions that follow repeats, and choosing what belongs together.
#include "app/bench_fixture.h"
#include "support/hand_checker.h"

#include "app/text/wording.h"
#include "session/files.h"
#include "support/pieces.h"

#include <QAction>
#include <QCheckBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

namespace wirenote::app {
namespace {

// Four bars of strums: C whole twice a bar, G once; two of the Cs lost a string, alike.
Piece strums() {
    const Instrument guitar = standardInstrument(InstrumentKind::Guitar);
    std::vector<test::Row> rows;
    static constexpr const char* kGrips[] = {
        "x32010", "320003", "x32010", "x320x0", "x32010", "320003", "x320x0", "x02210"};
    double at_s = 0.5;
    for (const char* text : kGrips) {
        const Grip grip = *parseGrip(text, guitar);
        double late_s = 0.0;
        for (int s = 6; s >= 1; --s)
            if (const int fret = grip.fretOn(s); fret >= 0) {
                rows.push_back({at_s + late_s, at_s + 0.9, guitar.midiAt({s, fret}), {s, fret}});
                late_s += 0.008;
            }
        at_s += 1.0;
    }
    Piece piece = test::pieceOf(rows);
    for (NotePlan& plan : piece.asPlayed().plans)
        plan.position.probability = 0.95;
    return piece;
}

class ChordsTest : public BenchTest {
  protected:
    ChordsTest() : BenchTest(BenchKind::Neck) {
        EXPECT_TRUE(writeAny(strums(), scratch / "p.wirenote").ok());
        window.openPath(QString::fromStdString((scratch / "p.wirenote").string()));
        EXPECT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
        settle();
    }
    std::size_t strokesOfGrip(const char* text) {
        return sameStrums(strumsOf(piece()), *parseGrip(text, piece().instrument)).size();
    }
    NoteId firstOf(double at_s) {
        for (const Note& note : piece().notes)
            if (note.onset_s() >= at_s - 0.01)
                return note.id;
        return 0;
    }
    void type(const char* field, const QString& text) {
        auto* line = named<QLineEdit>(field);
        ASSERT_NE(line, nullptr);
        line->setFocus();
        line->selectAll();
        QTest::keyClicks(line, text);
        QTest::keyClick(line, Qt::Key_Return);
        settle();
    }
};

TEST_F(ChordsTest, AClickOnItsNameChoosesItAndTheCardTellsOfIt) {
    auto* card = window.findChild<QWidget*>("chord");
    ASSERT_NE(card, nullptr);
    EXPECT_FALSE(card->isVisible());
    window.chords().chooseAt(3.6); // the C that lost a string
    settle();
    EXPECT_EQ(window.selection().all().size(), 4U);
    EXPECT_TRUE(card->isVisible());
    EXPECT_EQ(named<QLineEdit>("grip")->text(), "× 3 2 0 × 0");
    EXPECT_TRUE(named<QPushButton>("fillGrip")->isVisible());
    EXPECT_TRUE(named<QCheckBox>("everywhere")->isVisible());
    window.selection().choose(firstOf(0.5));
    settle();
    EXPECT_FALSE(card->isVisible()) << "one note is no chord";
}

TEST_F(ChordsTest, WhatIsMissingIsFilledHereOrWhereverItComesAgain) {
    const Piece before = piece();
    ASSERT_EQ(strokesOfGrip("x320x0"), 2U);
    window.selection().choose(firstOf(3.5));
    press(Qt::Key_G);
    EXPECT_EQ(strokesOfGrip("x320x0"), 1U);
    EXPECT_EQ(strokesOfGrip("x32010"), 4U);
    EXPECT_EQ(window.selection().all().size(), 5U) << "the chord stays chosen, whole";
    undo();
    EXPECT_TRUE(piece() == before);
    window.selection().choose(firstOf(3.5));
    press(Qt::Key_G, Qt::ShiftModifier);
    EXPECT_EQ(strokesOfGrip("x320x0"), 0U);
    EXPECT_EQ(strokesOfGrip("x32010"), 5U);
    EXPECT_EQ(strokesOfGrip("320003"), 2U) << "other grips stay";
    EXPECT_EQ(window.document().undoStack().count(), 1);
    undo();
    EXPECT_TRUE(piece() == before);
}

TEST_F(ChordsTest, WhatIsHeldCanBeWrittenAndItsNameToo) {
    const Piece before = piece();
    window.chords().chooseAt(7.6); // the A minor
    settle();
    type("grip", "x02010");
    EXPECT_EQ(strokesOfGrip("x02010"), 1U);
    EXPECT_EQ(strokesOfGrip("x02210"), 0U);
    type("grip", "x0201");
    EXPECT_EQ(strokesOfGrip("x02010"), 1U) << "what cannot be held changes nothing";
    EXPECT_EQ(named<QLineEdit>("grip")->text(), "× 0 2 0 1 0");
    type("chordName", "Am7 (open)");
    ASSERT_EQ(piece().chord_names.size(), 1U);
    EXPECT_EQ(piece().chord_names.front().name, "Am7 (open)");
    EXPECT_EQ(window.derived().chords().back().said, "Am7 (open)");
    undoAll();
    EXPECT_TRUE(piece() == before);
}

TEST_F(ChordsTest, ANumberMovesTheOneNoteTheCardTellsOf) {
    window.chords().chooseAt(0.6);
    settle();
    const std::size_t n = window.selection().all().size();
    ASSERT_EQ(n, 5U);
    const NoteId last = window.selection().note();
    press(Qt::Key_6);
    EXPECT_EQ(piece().plan(last)->position.value, (Position{6, 8})) << "the C that was on string 5";
    std::vector<test::HeldNote> held;
    for (const NoteId id : window.selection().all()) {
        const NotePlan& plan = *piece().plan(id);
        EXPECT_EQ(plan.position.isSet(), id == last);
        if (plan.placed())
            held.push_back({plan.position.value, plan.finger.value, 1.0});
    }
    EXPECT_GE(held.size(), 4U);
    EXPECT_EQ(test::whyNot(piece().instrument, held).value_or(""), "")
        << "what no hand could hold with it gives way";
}

TEST_F(ChordsTest, TheCardSaysWhyThisFinger) {
    window.chords().chooseAt(0.6);
    settle();
    press(Qt::Key_6); // both hands think again about what is near
    const auto& plans = piece().asPlayed().plans;
    const auto found = std::ranges::find_if(
        plans, [](const NotePlan& plan) { return !plan.finger.reasons.empty(); });
    ASSERT_NE(found, plans.end());
    window.selection().choose(found->note);
    settle();
    const auto* why = window.findChild<QWidget*>("why");
    ASSERT_NE(why, nullptr);
    const QString expected = QString("%1: %2").arg(fingerText(found->finger.value),
                                                   reasonTitle(found->finger.reasons.front()));
    const auto labels = why->findChildren<QLabel*>();
    EXPECT_TRUE(std::ranges::any_of(labels, [&expected](const QLabel* label) {
        return label->text() == expected;
    })) << expected.toStdString();
}

TEST_F(ChordsTest, AStrokeIsTurnedAsAWhole) {
    window.selection().choose(firstOf(0.5));
    press(Qt::Key_U);
    int upwards = 0;
    for (const NotePlan& plan : piece().asPlayed().plans)
        upwards += plan.stroke.isSet() && plan.stroke.value == Stroke::Up ? 1 : 0;
    EXPECT_EQ(upwards, 5) << "a pick goes over all its strings the same way";
    undo();
}

TEST_F(ChordsTest, AllLikeThisAndItsPhraseAreChosen) {
    window.selection().choose(firstOf(0.5)); // C on string 5
    press(Qt::Key_A, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(window.selection().all().size(), 5U);
    for (const NoteId id : window.selection().all())
        EXPECT_EQ(piece().plan(id)->position.value, (Position{5, 3}));
    EXPECT_EQ(window.selection().note(), firstOf(0.5)) << "the card tells of the same note";
}

TEST_F(ChordsTest, StringsAreChosenForAPassage) {
    const Piece before = piece();
    window.selection().choose(firstOf(2.5));
    for (QAction* action : window.findChildren<QAction*>())
        if (action->text() == "Strings 5 to 6")
            action->trigger();
    settle();
    EXPECT_TRUE(piece().plan(firstOf(2.5))->position.isSet());
    EXPECT_GE(piece().plan(firstOf(2.5))->position.value.string, 5);
    undo();
    EXPECT_TRUE(piece() == before);
}

} // namespace
} // namespace wirenote::app
