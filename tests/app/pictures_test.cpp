// What is drawn, against pictures that somebody looked at and accepted.
#include "app/bench_fixture.h"
#include "app/benches/neck/neck_view.h"
#include "app/benches/notes/stiffness_map.h"
#include "app/benches/sheet/sheet_view.h"

#include "demo/heron.h"
#include "session/files.h"
#include "session/resolve.h"
#include "support/pictures.h"

#include <QSignalSpy>

namespace wirenote::app {
namespace {

// The tune of the demo as it was played, without a recording: nothing in it is measured on this
// machine. Some of its notes are open again, so that doubts and runners-up are drawn too.
Piece drawnPiece() {
    Piece piece = standin::heronAtLowWater();
    piece.takes.clear();
    piece.string_traits.clear();
    for (std::size_t i = 0; i < piece.notes.size(); ++i) {
        NotePlan& plan = piece.asPlayed().plans[i];
        if (i % 5 == 2)
            plan.position = {};
        if (i % 3 == 0)
            piece.notes[i].ownSound().stiffness = {-9.5 - 0.02 * static_cast<double>(i), 0.1};
    }
    piece.notes[6].curve.clear();
    placeAndStroke(piece);
    piece.misses = {{{1.2, 1.5}, 64, 0.4, {1, 0}}};
    return piece;
}

class Pictures : public BenchTest {
  protected:
    Pictures() : BenchTest(BenchKind::Neck) { window.resize(1280, 800); }
    void open(const Piece& piece) {
        ASSERT_TRUE(writeAny(piece, scratch / "drawn.wirenote").ok());
        QSignalSpy opened(&window.document(), &Document::opened); // another may be open still
        window.openPath(QString::fromStdString((scratch / "drawn.wirenote").string()));
        ASSERT_TRUE(QTest::qWaitFor([&] { return !opened.isEmpty(); }, kPatience_ms));
        settle();
        ASSERT_TRUE(
            QTest::qWaitFor([&] { return !window.derived().form().parts.empty(); }, kPatience_ms));
        window.selection().choose(this->piece().notes[7].id);
        window.transport().seek(this->piece().notes[7].onset_s());
        settle();
    }
    // The view at a size of its own, without the frame that shows where the keys go.
    template <class View> QImage pictureOf(View& view, QSize size) {
        view.setFixedSize(size); // whatever room the window would give it
        settle();
        view.clearFocus();
        QImage image(size, QImage::Format_RGB32);
        image.fill(Qt::white);
        view.render(&image);
        return image;
    }
    QImage strip(BenchKind bench) {
        window.showBench(bench);
        return pictureOf(window.strip(), {860, 460});
    }
};

TEST_F(Pictures, TheStripOfEachBench) {
    open(drawnPiece());
    EXPECT_EQ(test::differenceFromAccepted(strip(BenchKind::Neck), "strip-neck"), "");
    EXPECT_EQ(test::differenceFromAccepted(strip(BenchKind::Pulse), "strip-pulse"), "");
    EXPECT_EQ(test::differenceFromAccepted(strip(BenchKind::Strokes), "strip-strokes"), "");
}

TEST_F(Pictures, TheNeckForBothHands) {
    Piece right = drawnPiece();
    open(right);
    auto* neck = window.findChild<NeckView*>("neck");
    EXPECT_EQ(test::differenceFromAccepted(pictureOf(*neck, {1000, 190}), "neck"), "");
    right.instrument.left_handed = true;
    open(right);
    EXPECT_EQ(test::differenceFromAccepted(pictureOf(*neck, {1000, 190}), "neck-left-handed"), "");
}

TEST_F(Pictures, TheSheet) {
    open(drawnPiece());
    window.showBench(BenchKind::Sheet);
    auto* sheet = window.findChild<SheetView*>("sheet");
    EXPECT_EQ(test::differenceFromAccepted(pictureOf(*sheet, {860, 700}), "sheet"), "");
}

TEST_F(Pictures, TheStiffnessOfANoteAndOfAll) {
    open(drawnPiece());
    auto* map = window.findChild<StiffnessMap*>("stiffnessMap");
    EXPECT_EQ(test::differenceFromAccepted(pictureOf(*map, {860, 460}), "stiffness-map"), "");
    window.selection().choose(piece().notes[6].id);
    settle();
    auto* view = window.findChild<QWidget*>("stiffness");
    ASSERT_NE(view, nullptr);
    EXPECT_EQ(test::differenceFromAccepted(pictureOf(*view, {300, view->height()}), "stiffness"),
              "");
}

// The comparison itself: a note that moves is seen, nothing is not.
TEST_F(Pictures, AMovedNoteIsSeen) {
    open(drawnPiece());
    const QImage before = strip(BenchKind::Neck);
    EXPECT_EQ(test::differingShare(before, strip(BenchKind::Neck)), 0.0);
    for (int step = 0; step < 6; ++step) // a note begins 60 ms later
        press(Qt::Key_Right, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_GT(test::differingShare(before, strip(BenchKind::Neck)), 0.0004);
}

} // namespace
} // namespace wirenote::app
