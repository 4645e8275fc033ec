// The Neck bench: what its card tells of the fretting hand, and the school it follows.
#include "app/bench_fixture.h"

#include "session/files.h"
#include "support/long_piece.h"

#include <QComboBox>
#include <QLabel>

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
    pick(school, static_cast<int>(FrettingSchool::Closed));
    EXPECT_EQ(piece().asPlayed().head.fretting_school, FrettingSchool::Closed);
    EXPECT_LT(openStrings(), before) << "all but the lowest note, which is nowhere else";
    undoAll();
    settle();
    EXPECT_EQ(piece().asPlayed().head.fretting_school, FrettingSchool::FingerPerFret);
    EXPECT_EQ(openStrings(), before);
    EXPECT_EQ(school->currentData().toInt(), static_cast<int>(FrettingSchool::FingerPerFret));
}

} // namespace
} // namespace wirenote::app
