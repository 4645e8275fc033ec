// SIMULATED film: the neck in the window's film, given, found and used.
#include "app/bench_fixture.h"

#include "app/benches/film/film_pane.h"
#include "app/benches/takes/picture_view.h"
#include "base/atomic_file.h"
#include "formats/piece_json.h"
#include "seeing/neck_way.h"
#include "support/simulated_film.h"

#include <QLabel>
#include <QMouseEvent>
#include <QPushButton>

namespace wirenote::app {
namespace {

class FilmBench : public BenchTest, protected test::SimulatedFilm {
  protected:
    FilmBench() : BenchTest(BenchKind::Neck) {}

    // The tab of the film with places that are wrong by a string, none of them set.
    void openFilm(bool with_neck) {
        Piece tab = truth;
        Take lead;
        lead.name = "film";
        lead.path = SimulatedFilm::path().string();
        lead.length_s = 7.0;
        lead.has_picture = true;
        if (with_neck)
            for (const double time_s : {0.0, 1.0, 2.0, 3.0, 4.0, 5.0, 6.0})
                lead.film.frames.push_back(neckFrame(plane, cameraAt(time_s), time_s));
        tab.takes = {lead};
        for (NotePlan& plan : tab.asPlayed().plans)
            plan.position = {};
        const auto file = scratch / "film.wirenote";
        ASSERT_TRUE(writeFileAtomically(file, writePieceJson(tab)).ok());
        window.openPath(QString::fromStdString(file.string()));
        ASSERT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
        settle();
        pane = window.findChild<FilmPane*>("filmPane");
        ASSERT_TRUE(pane && pane->isVisible());
    }
    void waitForPicture() {
        const auto* picture = window.findChild<PictureView*>("film");
        ASSERT_TRUE(QTest::qWaitFor([&] { return !picture->image().isNull(); }, kPatience_ms));
        QTest::qWait(200); // the wish of the playhead comes a moment later
    }
    void waitForJobs() {
        ASSERT_TRUE(QTest::qWaitFor([&] { return !window.jobs().running(); }, kPatience_ms));
        settle();
    }
    FilmPane* pane = nullptr;
};

TEST_F(FilmBench, LooksAtTheFilmAndUsesIt) {
    openFilm(false);
    EXPECT_TRUE(named<QLabel>("filmState")->text().contains("not been looked at"));
    QTest::mouseClick(named<QPushButton>("lookAtFilm"), Qt::LeftButton);
    waitForJobs();
    ASSERT_TRUE(piece().lead()->film.told());
    EXPECT_EQ(piece().lead()->film.neck, Basis::Seen);
    EXPECT_GE(rightPlaces(piece()), 10) << "of 12";
    EXPECT_TRUE(named<QLabel>("filmState")->text().contains("Neck found"));
    window.document().undo();
    EXPECT_FALSE(piece().lead()->film.told()) << "one step to undo";
}

TEST_F(FilmBench, AClickShowsThePlaceOfANote) {
    openFilm(true);
    window.selection().choose(piece().notes[4].id);
    QTest::mouseClick(named<QPushButton>("showPlaces"), Qt::LeftButton);
    ASSERT_EQ(pane->overlay().mode(), NeckOverlay::Mode::Show);
    waitForPicture();
    EXPECT_NEAR(window.transport().playhead_s(), piece().notes[4].onset_s(), 0.1)
        << "the picture goes to the note";
    const Position where = truth.asPlayed().plans[4].position.value;
    const auto neck = window.film().neckAt(piece().notes[4].onset_s() + 0.06);
    ASSERT_TRUE(neck);
    const double along_mm = plane.wire_mm(where.fret - 0.35);
    const PicturePoint tip = project(*neck, {along_mm, plane.string_mm(where.string, along_mm)});
    QTest::mouseClick(
        &pane->overlay(), Qt::LeftButton, {}, pane->overlay().toWidget(tip).toPoint());
    const NotePlan& plan = piece().asPlayed().plans[4];
    EXPECT_EQ(plan.position.value, where);
    EXPECT_TRUE(plan.position.isSet());
    ASSERT_TRUE(piece().notes[4].seen() && piece().notes[4].seen()->shown);
    EXPECT_NEAR(piece().notes[4].seen()->shown->x, tip.x, 3.0) << "the picture is kept";
    window.selection().step(1);
    settle();
    EXPECT_NEAR(window.transport().playhead_s(), piece().notes[5].onset_s(), 0.1);
    QTest::mouseClick(&pane->overlay(), Qt::LeftButton, {}, QPoint(12, 12)); // nowhere near
    EXPECT_FALSE(piece().asPlayed().plans[5].position.isSet());
}

TEST_F(FilmBench, ThePointsGiveTheNeck) {
    openFilm(false);
    waitForPicture();
    QTest::mouseClick(named<QPushButton>("giveNeck"), Qt::LeftButton);
    NeckOverlay& overlay = pane->overlay();
    ASSERT_EQ(overlay.mode(), NeckOverlay::Mode::Give);
    // By the mouse two of them, by keys the others' way back: a point goes and returns.
    const auto drag = [&overlay](QPointF from, QPointF to) {
        QTest::mousePress(&overlay, Qt::LeftButton, {}, from.toPoint());
        QMouseEvent move(
            QEvent::MouseMove, to, overlay.mapToGlobal(to), Qt::NoButton, Qt::LeftButton, {});
        QCoreApplication::sendEvent(&overlay, &move);
        QTest::mouseRelease(&overlay, Qt::LeftButton, {}, to.toPoint());
    };
    const auto points = [&] {
        std::vector<QPointF> at;
        const auto frame = overlay.given();
        for (std::size_t k = 0; frame && k < 4; ++k)
            at.push_back(overlay.toWidget({frame->corners[2 * k], frame->corners[2 * k + 1]}));
        return at;
    };
    const auto marks = marksAt(0.0);
    for (std::size_t k = 0; k < 4; ++k) {
        ASSERT_EQ(points().size(), 4U);
        drag(points()[k], overlay.toWidget(marks.marks[k].at));
    }
    const auto before = points();
    QTest::keyClick(&overlay, Qt::Key_Right, Qt::ShiftModifier);
    EXPECT_NE(points(), before);
    QTest::keyClick(&overlay, Qt::Key_Left, Qt::ShiftModifier);
    QTest::keyClick(&overlay, Qt::Key_Return);
    waitForJobs();
    EXPECT_EQ(piece().lead()->film.neck, Basis::Set);
    EXPECT_GT(piece().lead()->film.followed, 0.9);
    EXPECT_GE(rightPlaces(piece()), 10) << "of 12";
    EXPECT_EQ(overlay.mode(), NeckOverlay::Mode::Look);
}

TEST_F(FilmBench, EscapeLeavesTheNeckAsItWas) {
    openFilm(true);
    waitForPicture();
    const FilmFacts before = piece().lead()->film;
    QTest::mouseClick(named<QPushButton>("giveNeck"), Qt::LeftButton);
    QTest::keyClick(&pane->overlay(), Qt::Key_Space);
    QTest::keyClick(&pane->overlay(), Qt::Key_Up);
    QTest::keyClick(&pane->overlay(), Qt::Key_Escape);
    EXPECT_EQ(pane->overlay().mode(), NeckOverlay::Mode::Look);
    EXPECT_EQ(piece().lead()->film, before);
    EXPECT_FALSE(window.document().modified());
}

} // namespace
} // namespace wirenote::app
