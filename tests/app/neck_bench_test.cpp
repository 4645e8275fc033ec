// The Neck bench: what its card tells of the fretting hand, and the school it follows.
#include "app/bench_fixture.h"

#include "app/benches/neck/neck_view.h"
#include "app/document/selection.h"
#include "app/playing/transport.h"
#include "app/text/harmony_wording.h"
#include "form/harmony.h"
#include "form/span_summary.h"
#include "session/files.h"
#include "support/long_piece.h"

#include <QApplication>
#include <QComboBox>
#include <QInputDialog>
#include <QLabel>
#include <QMenu>
#include <QTimer>
#include <QToolButton>

namespace wirenote::app {
namespace {

class NeckBench : public BenchTest {
  protected:
    NeckBench() : BenchTest(BenchKind::Neck) {
        EXPECT_TRUE(writeAny(test::longPiece(40), scratch / "p.wirenote").ok());
        window.openPath(QString::fromStdString((scratch / "p.wirenote").string()));
        EXPECT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
        settle();
    }
    QString text(const char* name) { return named<QLabel>(name)->text(); }
};

TEST_F(NeckBench, TellsWhatTheBarOfTheChosenNoteAsksOfTheHand) {
    EXPECT_TRUE(text("handLoad").contains("Choose a note")) << text("handLoad").toStdString();
    press(Qt::Key_Right);
    EXPECT_TRUE(text("handLoad").startsWith("Bar 1: ")) << text("handLoad").toStdString();
    EXPECT_FALSE(text("hardest").isEmpty());
    EXPECT_FALSE(text("muted").isEmpty());
    EXPECT_TRUE(text("handCaution").isEmpty()) << "nothing strains";
    window.showBench(BenchKind::Notes);
    EXPECT_FALSE(named<QWidget>("hand")->isVisible());
}

TEST_F(NeckBench, ASchoolIsChosenFollowedAndTakenBack) {
    press(Qt::Key_Right);
    const auto openStrings = [this] {
        return std::ranges::count_if(piece().asPlayed().plans, [](const NotePlan& plan) {
            return plan.placed() && plan.position.value.fret == 0;
        });
    };
    const auto before = openStrings();
    auto* school = named<QComboBox>("frettingSchool");
    ASSERT_NE(school, nullptr);
    pick(school, "closed");
    EXPECT_EQ(piece().asPlayed().head.fretting.school, FrettingSchool::Closed);
    EXPECT_LT(openStrings(), before) << "all but the lowest note, which is nowhere else";
    undoAll();
    settle();
    EXPECT_EQ(piece().asPlayed().head.fretting.school, FrettingSchool::FingerPerFret);
    EXPECT_EQ(openStrings(), before);
    EXPECT_EQ(school->currentData().toString().toStdString(), "finger-per-fret");
}

TEST_F(NeckBench, ASchoolIsAdjustedAndKept) {
    auto* adjust = named<QToolButton>("adjustSchool");
    ASSERT_NE(adjust, nullptr);
    const auto choose = [&](const char* answer) {
        emit adjust->menu()->aboutToShow();
        auto* action = adjust->menu()->findChild<QAction*>(answer);
        ASSERT_NE(action, nullptr) << answer;
        EXPECT_TRUE(action->isEnabled()) << answer;
        action->trigger();
        settle();
    };
    auto* school = named<QComboBox>("frettingSchool");
    choose("roll");
    choose("lift");
    choose("keep-down"); // instead of the last
    EXPECT_EQ(piece().asPlayed().head.fretting.rules,
              (std::vector{FrettingRule::Roll, FrettingRule::KeepDown}));
    EXPECT_EQ(school->currentText(), "one finger a fret, adjusted");
    QTimer::singleShot(0, [] {
        auto* asks = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
        ASSERT_NE(asks, nullptr);
        asks->setTextValue("as in my lessons");
        asks->accept();
    });
    choose("keepSchool");
    EXPECT_EQ(school->currentText(), "as in my lessons");
    pick(school, "box");
    settle();
    EXPECT_EQ(piece().asPlayed().head.fretting, (FrettingManner{FrettingSchool::Box, {}}));
    pick(school, "finger-per-fret+roll+keep-down");
    EXPECT_EQ(piece().asPlayed().head.fretting.rules.size(), 2U);
    choose("forgetSchool");
    EXPECT_EQ(school->currentText(), "one finger a fret, adjusted");
    undoAll();
    settle();
    EXPECT_EQ(piece().asPlayed().head.fretting, FrettingManner{});
    EXPECT_EQ(school->currentText(), "one finger a fret");
}

TEST_F(NeckBench, HarmonyLiesUnderTheHand) {
    openDemo();
    auto* neck = window.findChild<NeckView*>("neck");
    ASSERT_NE(neck, nullptr);
    EXPECT_EQ(neck->harmony(), NeckHarmony::None);
    const QImage hand_alone = neck->grab().toImage();
    press(Qt::Key_7, Qt::ControlModifier);
    EXPECT_EQ(neck->harmony(), NeckHarmony::ScaleNotes);
    const Scale scale = summarise(piece(), {}).scale;
    EXPECT_EQ(neck->harmonyText(), "E " + scaleText(scale.kind));
    EXPECT_NE(neck->grab().toImage(), hand_alone);
    press(Qt::Key_7, Qt::ControlModifier);
    EXPECT_EQ(neck->harmony(), NeckHarmony::ScaleDegrees);
    press(Qt::Key_7, Qt::ControlModifier);
    EXPECT_EQ(neck->harmony(), NeckHarmony::ChordNotes);
    const auto chords = chordsOf(piece());
    ASSERT_FALSE(chords.empty());
    window.selection().choose(0);
    window.transport().seek(chords.front().span.start_s + 0.1);
    const QString over =
        "over " + QString::fromStdString(chordText(chords.front(), piece().key.spelling()));
    // Chords are worked out beside the interface: on a busy machine they come later.
    EXPECT_TRUE(QTest::qWaitFor([&] { return neck->harmonyText().contains(over); }, kPatience_ms))
        << neck->harmonyText().toStdString();
    press(Qt::Key_7, Qt::ControlModifier);
    press(Qt::Key_7, Qt::ControlModifier);
    EXPECT_EQ(neck->harmony(), NeckHarmony::None);
    EXPECT_TRUE(neck->harmonyText().isEmpty());
}

} // namespace
} // namespace wirenote::app
