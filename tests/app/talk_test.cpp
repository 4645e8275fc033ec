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
    EXPECT_EQ(piece().timeline, before.timeline) << "a short stretch says nothing of the pulse";
    undo();
    EXPECT_TRUE(piece() == before);
}

TEST_F(TalkTest, IsSaidAndTakenBackByAKey) {
    const Piece before = piece();
    const double from_s = test::kPlayFrom_s + 1.0;
    window.transport().setLoop(TimeRange{from_s, from_s + 2.0});
    press(Qt::Key_T, Qt::ControlModifier);
    for (const Note& note : piece().notes)
        EXPECT_FALSE(note.onset_s() >= from_s && note.onset_s() < from_s + 2.0);
    EXPECT_LT(piece().notes.size(), before.notes.size());
    const auto said = std::ranges::find(
        piece().lead()->sound_spans, Basis::Set, [](const SoundSpan& s) { return s.basis; });
    ASSERT_NE(said, piece().lead()->sound_spans.end());
    EXPECT_EQ(said->kind, SoundKind::Talk);
    // Heard again as a whole, what was said stays said.
    window.transport().setLoop({});
    press(Qt::Key_E);
    ASSERT_TRUE(QTest::qWaitFor([&] { return heard(); }, kPatience_ms));
    for (const Note& note : piece().notes)
        EXPECT_FALSE(note.onset_s() >= from_s + 0.1 && note.onset_s() < from_s + 1.9);
    undo();
    undo();
    EXPECT_TRUE(piece() == before);
    // It is playing after all: heard at once.
    window.transport().setLoop(TimeRange{from_s, from_s + 2.0});
    press(Qt::Key_T, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_TRUE(QTest::qWaitFor([&] { return heard(); }, kPatience_ms));
    settle();
    EXPECT_EQ(std::ranges::count(piece().lead()->sound_spans,
                                 Basis::Set,
                                 [](const SoundSpan& s) { return s.basis; }),
              1);
    EXPECT_GE(piece().notes.size(), before.notes.size());
}

// Where talk ends is dragged in the sound lane; what is talk then loses its notes.
TEST_F(TalkTest, EndsWhereAPersonDragsIt) {
    const Piece before = piece();
    const SoundSpan talk = before.lead()->sound_spans.front();
    ASSERT_EQ(talk.kind, SoundKind::Talk);
    window.takes().moveEdge(0, talk.span.end_s, test::kPlayFrom_s + 1.0);
    EXPECT_TRUE(std::ranges::none_of(
        piece().notes, [](const Note& note) { return note.onset_s() < test::kPlayFrom_s + 1.0; }));
    EXPECT_LT(piece().notes.size(), before.notes.size());
    undo();
    EXPECT_TRUE(piece() == before);
    window.takes().moveEdge(0, 3.3, 5.0); // there is no edge
    EXPECT_TRUE(piece() == before);
}

TEST_F(TalkTest, IsSaidToBeNoiseInTheMenu) {
    window.transport().setLoop(TimeRange{test::kPlayFrom_s + 1.0, test::kPlayFrom_s + 2.0});
    window.takes().loopIs(SoundKind::Noise);
    const auto& spans = piece().lead()->sound_spans;
    const auto noise = std::ranges::find(spans, SoundKind::Noise, &SoundSpan::kind);
    ASSERT_NE(noise, spans.end());
    EXPECT_TRUE(noise->basis == Basis::Set);
    EXPECT_TRUE(std::ranges::none_of(piece().notes, [&noise](const Note& note) {
        return noise->span.contains(note.onset_s());
    }));
}

} // namespace
} // namespace wirenote::app
