// What follows from the piece, worked out beside the interface, and views that repaint for it only.
#include "app/bench_fixture.h"
#include "app/benches/notes/what_if.h"
#include "app/document/derived.h"

#include "session/files.h"
#include "session/resolve.h"
#include "support/long_piece.h"
#include "support/pieces.h"

#include <QPushButton>
#include <QSignalSpy>

namespace wirenote::app {
namespace {

class Follows : public BenchTest {
  protected:
    Follows() : BenchTest(BenchKind::Neck) {}
    void open(const Piece& made) {
        ASSERT_TRUE(writeAny(made, scratch / "made.wirenote").ok());
        window.openPath(QString::fromStdString((scratch / "made.wirenote").string()));
        ASSERT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
        settle();
    }
};

TEST_F(Follows, TheCopyKeepsUpWithEditsUndoneAndDoneAgain) {
    open(test::longPiece(200));
    const auto same = [&] {
        bool is_same = false;
        window.derived().ask([](const Piece& copy) { return copy; },
                             [&](const Piece& copy) {
                                 Piece now = piece();
                                 is_same = copy == now;
                             });
        window.derived().wait();
        return is_same;
    };
    EXPECT_TRUE(same());
    window.selection().choose(piece().notes[20].id);
    for (const Qt::Key key : {Qt::Key_Up, Qt::Key_J, Qt::Key_Delete, Qt::Key_U}) {
        press(key);
        EXPECT_TRUE(same()) << key;
    }
    undoAll();
    EXPECT_TRUE(same());
    window.document().undoStack().redo();
    EXPECT_TRUE(same());
    EXPECT_TRUE(window.derived().upToDate());
}

// Doubts, count and the rest are those of the piece as it is, once they are there.
TEST_F(Follows, WhatIsShownIsOfThePieceAsItIs) {
    open(test::longPiece(120));
    press(Qt::Key_Right);
    press(Qt::Key_Delete);
    const auto expected = openDoubts(piece());
    ASSERT_EQ(window.derived().doubts().size(), expected.size());
    for (std::size_t i = 0; i < expected.size(); ++i)
        EXPECT_EQ(window.derived().doubts()[i].note, expected[i].note);
    EXPECT_EQ(window.derived().chords().size(), chordsOf(piece()).size());
    EXPECT_EQ(window.derived().count().size(),
              countOf(piece(), quantise(piece()), window.derived().school()).size());
}

TEST_F(Follows, AWishWaitsUntilEverythingIsKnown) {
    open(test::longPiece(120));
    window.selection().choose(piece().notes[5].id);
    const NoteId id = piece().notes[5].id;
    ASSERT_TRUE(window.document().edit(
        "test", piece().notes[5].onset_s(), [id](PieceEditor& e) { return e.remove(id); }));
    EXPECT_FALSE(window.derived().upToDate()) << "an edit does not wait for what follows";
    bool granted = false;
    window.derived().whenUpToDate([&] { granted = true; });
    EXPECT_FALSE(granted);
    window.derived().wait();
    EXPECT_TRUE(granted);
}

TEST_F(Follows, WhatWouldFollowIsTriedBesideTheInterface) {
    open(test::pieceOf({{0.0, 0.2, 69}, {0.25, 0.45, 71}, {0.5, 0.7, 72}, {0.75, 1.2, 69}}));
    ASSERT_TRUE(window.document().edit(
        "place", 0.0, [](PieceEditor& e) { return e.setTempo(120.0); }, Resolve::WholePiece));
    WhatIf what_if(window.document(), window.derived());
    const Note& note = piece().notes[0];
    EXPECT_FALSE(what_if.following(note, 4)) << "not known at once";
    window.derived().wait();
    const auto followed =
        tryEdit(piece(), 0.0, [](PieceEditor& e) { return e.moveToString(1, 4); });
    ASSERT_TRUE(followed.ok());
    const WhatIf::Ripple* ripple = what_if.following(note, 4);
    ASSERT_NE(ripple, nullptr);
    EXPECT_EQ(ripple->moved, followed->followed);
    EXPECT_EQ(ripple->refingered, followed->refingered);
    window.document().undoStack().undo();
    EXPECT_FALSE(what_if.following(note, 4)) << "another piece, another answer";
}

// An edit out of sight, and one of takes, leave the strip as it is painted.
TEST_F(Follows, TheStripIsPaintedAnewOnlyForWhatItShows) {
    open(test::longPiece(400));
    ASSERT_GT(window.document().length_s(), 60.0);
    window.strip().grab();
    ASSERT_TRUE(window.strip().upToDate());
    const auto changed = [&](TimeRange span, bool plans, bool takes) {
        Changes what;
        what.plans = plans;
        what.takes = takes;
        what.span = span;
        emit window.document().changed(what);
        const bool fresh = window.strip().upToDate();
        window.strip().grab();
        return !fresh;
    };
    EXPECT_TRUE(changed({2.0, 3.0}, true, false)) << "in sight";
    EXPECT_FALSE(changed({50.0, 51.0}, true, false)) << "out of sight";
}

TEST_F(Follows, ChangesSayWhatTheyAreAbout) {
    open(test::longPiece(60));
    std::vector<Changes> seen;
    QObject::connect(&window.document(), &Document::changed, &window, [&](const Changes& what) {
        seen.push_back(what);
    });
    const NoteId id = piece().notes[10].id;
    const TimeRange at = piece().notes[10].time.value;
    const auto edit = [&](auto change, Resolve resolve) {
        seen.clear();
        EXPECT_TRUE(window.document().edit("test", at.start_s, change, resolve));
        return seen.size() == 1 ? seen.front() : Changes{};
    };
    const Changes stroke =
        edit([id](PieceEditor& e) { return e.setStroke(id, Stroke::Ghost); }, Resolve::Nothing);
    EXPECT_TRUE(stroke.plans);
    EXPECT_FALSE(stroke.notes || stroke.timeline || stroke.takes || stroke.instrument);
    EXPECT_DOUBLE_EQ(stroke.span.start_s, at.start_s);
    const Changes tempo = edit([](PieceEditor& e) { return e.setTempo(77.0); }, Resolve::Nothing);
    EXPECT_TRUE(tempo.timeline);
    EXPECT_FALSE(tempo.notes || tempo.plans || tempo.takes);
    EXPECT_TRUE(tempo.span.empty());
    const Changes gone = edit([id](PieceEditor& e) { return e.remove(id); }, Resolve::Nothing);
    EXPECT_TRUE(gone.notes && gone.plans);
    EXPECT_DOUBLE_EQ(gone.span.start_s, at.start_s);
}

// The same of the same note is one step back; of another note it is another step.
TEST_F(Follows, SmallStepsOfOneKindAreUndoneTogether) {
    open(test::longPiece(60));
    const Piece before = piece();
    window.selection().choose(piece().notes[4].id);
    press(Qt::Key_Right, Qt::ControlModifier | Qt::ShiftModifier);
    press(Qt::Key_Right, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(window.document().undoStack().count(), 1);
    press(Qt::Key_Left, Qt::ControlModifier);
    EXPECT_EQ(window.document().undoStack().count(), 2) << "the end is not the start";
    window.selection().choose(piece().notes[30].id);
    press(Qt::Key_Left, Qt::ControlModifier);
    EXPECT_EQ(window.document().undoStack().count(), 3) << "nor is another note";
    undoAll();
    EXPECT_TRUE(piece() == before);
}

} // namespace
} // namespace wirenote::app
