// A recording in which somebody talks, in the real window.
#include "app/bench_fixture.h"

#include "support/lesson.h"

namespace wirenote::app {
namespace {

class TalkTest : public BenchTest {
  protected:
    TalkTest() : BenchTest(BenchKind::Neck) {
        window.openPath(QString::fromStdString(test::lesson(scratch / "").string()));
        EXPECT_TRUE(QTest::qWaitFor([&] { return heard(); }, kPatience_ms));
        settle();
    }
    bool heard() {
        return window.takes().hearing() == TakeCommands::Hearing::Heard && !window.jobs().running();
    }
    int notesInTalk() {
        return static_cast<int>(std::ranges::count_if(
            piece().notes, [](const Note& note) { return note.onset_s() < test::kTalkUntil_s; }));
    }
};

TEST_F(TalkTest, MakesNoNotesAndTheFirstNoteIsPlayed) {
    EXPECT_EQ(notesInTalk(), 0);
    ASSERT_FALSE(piece().lead()->sound_spans.empty());
    EXPECT_EQ(piece().lead()->sound_spans.front().kind, SoundKind::Talk);
    press(Qt::Key_Home);
    EXPECT_GT(piece().note(window.selection().note())->onset_s(), test::kPlayFrom_s - 0.1);
}

// Who marks a stretch wants its notes, whatever it sounds like; and it can be undone.
TEST_F(TalkTest, IsHeardAllTheSameWhereSomebodyAsksForIt) {
    const Piece before = piece();
    window.transport().setLoop(TimeRange{1.0, 4.5});
    press(Qt::Key_E);
    ASSERT_TRUE(QTest::qWaitFor([&] { return heard(); }, kPatience_ms));
    settle();
    EXPECT_GT(notesInTalk(), 0);
    undo();
    EXPECT_TRUE(piece() == before);
}

} // namespace
} // namespace wirenote::app
