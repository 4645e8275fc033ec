// SIMULATED film: the neck in the window's film, given, found and used.
#include "app/bench_fixture.h"

#include "app/benches/film/film_lane.h"
#include "app/benches/film/film_pane.h"
#include "app/benches/takes/picture_view.h"
#include "app/strip/strip_view.h"
#include "base/atomic_file.h"
#include "formats/piece_json.h"
#include "seeing/neck_way.h"
#include "support/simulated_film.h"

#include <QComboBox>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QSpinBox>
#include <QTreeWidget>

namespace wirenote::app {
namespace {

class FilmBench : public BenchTest, protected test::SimulatedFilm {
  protected:
    FilmBench() : BenchTest(BenchKind::Neck) {}

    Take filmedTake() const {
        Take take;
        take.name = "film";
        take.path = SimulatedFilm::path().string();
        take.length_s = 7.0;
        take.has_picture = true;
        return take;
    }

    // The tab of the film with places that are wrong by a string, none of them set.
    void openFilm(bool with_neck) {
        Piece tab = truth;
        Take lead = filmedTake();
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
    // The leading take is a sound.
    void openWithFilmOfAnotherTake() {
        Piece tab = truth;
        Take sound;
        sound.path = (SimulatedFilm::path().parent_path() / "sound.wav").string();
        sound.length_s = 6.9;
        tab.takes = {sound, filmedTake()};
        tab.takes[1].alignment.basis = Basis::Heard;
        for (NotePlan& plan : tab.asPlayed().plans)
            plan.position = {};
        const auto file = scratch / "two.wirenote";
        ASSERT_TRUE(writeFileAtomically(file, writePieceJson(tab)).ok());
        window.openPath(QString::fromStdString(file.string()));
        ASSERT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
        settle();
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

// The leading take is a sound alone; the film is the second take, chosen on the Takes bench.
TEST_F(FilmBench, TheFilmOfAnotherTakeIsLookedAt) {
    openWithFilmOfAnotherTake();
    window.showBench(BenchKind::Takes);
    settle();
    auto* look = named<QPushButton>("lookAtTake");
    EXPECT_FALSE(look->isVisible()) << "the first take has no film";
    window.transport().setTake(1);
    settle();
    ASSERT_TRUE(look->isVisible() && look->isEnabled());
    QTest::mouseClick(look, Qt::LeftButton);
    waitForJobs();
    EXPECT_TRUE(piece().takes[1].film.told());
    EXPECT_FALSE(piece().takes[0].film.told());
    EXPECT_GE(rightPlaces(piece()), 10) << "of 12";
    window.document().undo();
    EXPECT_FALSE(piece().takes[1].film.told()) << "one step to undo";
}

// The take that is heard has no film: the other's is beside the notes, and is worked on.
TEST_F(FilmBench, ThePaneWorksOnTheFilmOfAnotherTake) {
    openWithFilmOfAnotherTake();
    pane = window.findChild<FilmPane*>("filmPane");
    ASSERT_TRUE(pane && pane->isVisible());
    EXPECT_EQ(window.transport().take(), 0U);
    EXPECT_EQ(pane->shownTake(), 1U);
    EXPECT_FALSE(named<QPushButton>("showPlaces")->isEnabled()) << "no neck is known yet";
    window.film().giveNeck(1, neckFrame(plane, cameraAt(1.0), 1.0));
    waitForJobs();
    ASSERT_TRUE(piece().takes[1].film.told());
    EXPECT_FALSE(piece().takes[0].film.told());
    EXPECT_EQ(piece().takes[1].film.neck, Basis::Set);
    EXPECT_TRUE(named<QPushButton>("showPlaces")->isEnabled());
    window.selection().choose(piece().notes[4].id);
    settle();
    EXPECT_TRUE(named<QLabel>("filmState")->text().contains("Fingers down")) << "at that note";
    const Position where = truth.asPlayed().plans[4].position.value;
    const double time_s = piece().notes[4].onset_s() + 0.06;
    const double along_mm = plane.wire_mm(where.fret - 0.35);
    const PicturePoint tip =
        project(cameraAt(time_s), {along_mm, plane.string_mm(where.string, along_mm)});
    EXPECT_TRUE(window.film().showPlace(1, time_s, tip, Finger::Unknown));
    EXPECT_TRUE(piece().asPlayed().plans[4].position.isSet());
    EXPECT_EQ(piece().asPlayed().plans[4].position.value, where);
    ASSERT_NE(piece().notes[4].factsOf(1), nullptr);
    EXPECT_TRUE(piece().notes[4].factsOf(1)->seen.shown) << "kept with that film";
    // Moved elsewhere it rests on no picture any more, whichever take's it was.
    const int midi = piece().notes[4].midi();
    const int other = piece().instrument.fretFor(where.string - 1, midi) >= 0 ? where.string - 1
                                                                              : where.string + 1;
    const NoteId moved = piece().notes[4].id;
    ASSERT_TRUE(window.document().edit(
        "move",
        0.0,
        [&](PieceEditor& e) { return e.moveToString(moved, other); },
        Resolve::Nothing));
    EXPECT_FALSE(piece().notes[4].factsOf(1)->seen.shown);
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
    const auto neck = window.film().neckAt(0, piece().notes[4].onset_s() + 0.06);
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

// A click on the pick says which string, and which way.
TEST_F(FilmBench, AClickShowsTheStrokeOfANote) {
    openFilm(true);
    window.selection().choose(piece().notes[4].id);
    QTest::mouseClick(named<QPushButton>("showPlaces"), Qt::LeftButton);
    waitForPicture();
    auto* what = named<QComboBox>("shownFinger");
    what->setCurrentIndex(what->findText("up-stroke"));
    ASSERT_EQ(what->currentText(), "up-stroke");
    const Position where = truth.asPlayed().plans[4].position.value;
    const auto neck = window.film().neckAt(0, piece().notes[4].onset_s() + 0.06);
    ASSERT_TRUE(neck);
    constexpr double kPlucked_mm = 430.0;
    const PicturePoint pick =
        project(*neck, {kPlucked_mm, plane.string_mm(where.string, kPlucked_mm)});
    QTest::mouseClick(
        &pane->overlay(), Qt::LeftButton, {}, pane->overlay().toWidget(pick).toPoint());
    const NotePlan& plan = piece().asPlayed().plans[4];
    EXPECT_EQ(plan.stroke.value, Stroke::Up);
    EXPECT_TRUE(plan.stroke.isSet());
    EXPECT_EQ(plan.position.value.string, where.string);
    EXPECT_TRUE(plan.position.isSet());
    EXPECT_FALSE(plan.finger.isSet()) << "nobody has shown the other hand";
    EXPECT_TRUE(piece().notes[4].seen() && piece().notes[4].seen()->shown);
    window.document().undo();
    EXPECT_FALSE(piece().asPlayed().plans[4].stroke.isSet());
    EXPECT_FALSE(piece().asPlayed().plans[4].position.isSet()) << "one step to undo";
}

// Which fret is which is one question: the grid is tried, and taken where it fits.
TEST_F(FilmBench, ACountInDoubtIsAskedOnce) {
    openFilm(true);
    auto* asked = window.findChild<QWidget*>("filmCounting");
    ASSERT_NE(asked, nullptr);
    EXPECT_FALSE(asked->isVisible()) << "it is sure";
    window.document().edit(
        "doubt",
        0.0,
        [this](PieceEditor& e) {
            return e.changeTake(0, [this](Take& take) {
                take.film.numbering = 0.6;
                take.film.followed = 1.0;
                for (NeckFrame& frame : take.film.frames) // two frets too near to the nut
                    frame = recounted(plane, cameraAt(frame.time_s), 2, frame.time_s);
            });
        },
        Resolve::Nothing);
    waitForPicture();
    EXPECT_TRUE(asked->isVisible());
    EXPECT_TRUE(named<QLabel>("filmState")->text().contains("60 % only"));
    const auto wire5 = [this] {
        const auto neck = window.film().neckAt(0, 1.0);
        return neck ? project(*neck, plane.edge(5.0, true)) : PicturePoint{};
    };
    const PicturePoint right = project(cameraAt(1.0), plane.edge(5.0, true));
    EXPECT_GT(std::abs(wire5().x - right.x), 8.0) << "the lines do not fit";
    named<QSpinBox>("countedFurther")->setValue(-2);
    EXPECT_NEAR(wire5().x, right.x, 2.0) << "tried, and they do";
    EXPECT_EQ(piece().lead()->film.neck, Basis::Seen) << "nothing is decided yet";
    QTest::mouseClick(named<QPushButton>("countFits"), Qt::LeftButton);
    EXPECT_EQ(piece().lead()->film.neck, Basis::Set);
    EXPECT_FALSE(asked->isVisible());
    waitForJobs();
    EXPECT_NEAR(wire5().x, right.x, 6.0) << "followed from there";
}

// Two films of the piece are seen at the same place of the music, whichever is heard.
TEST_F(FilmBench, TwoFilmsAreSeenAtTheSamePlace) {
    openFilm(true);
    press(Qt::Key_F1);
    settle();
    auto* heard = window.findChild<PictureView*>("picture");
    auto* other = window.findChild<PictureView*>("otherPicture");
    ASSERT_TRUE(heard && other);
    EXPECT_FALSE(other->isVisible()) << "there is one film";
    const auto copy = scratch / "side.mkv";
    std::filesystem::copy_file(SimulatedFilm::path(), copy);
    Take second = *piece().lead();
    second.name = "from the side";
    second.path = copy.string();
    second.film = {};
    second.alignment.stretches = {{{0.0, 0.5}, {5.0, 5.5}}}; // begins half a second earlier
    Piece two = piece();
    two.takes.push_back(second);
    const auto file = scratch / "two.wirenote";
    ASSERT_TRUE(writeFileAtomically(file, writePieceJson(two)).ok());
    window.openPath(QString::fromStdString(file.string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return piece().takes.size() == 2; }, kPatience_ms));
    ASSERT_TRUE(QTest::qWaitFor([&] { return other->isVisible(); }, kPatience_ms));
    EXPECT_EQ(heard->take(), std::optional<std::size_t>(0));
    EXPECT_EQ(other->take(), std::optional<std::size_t>(1));
    window.transport().seek(2.0);
    ASSERT_TRUE(QTest::qWaitFor(
        [&] {
            return std::abs(heard->shown_s() - 2.0) < 0.1 && std::abs(other->shown_s() - 2.5) < 0.1;
        },
        kPatience_ms))
        << heard->shown_s() << " " << other->shown_s();
}

// Small pictures of the film stand along the strip; without a film there is no such lane.
TEST_F(FilmBench, TheStripShowsTheFilm) {
    openFilm(true);
    press(Qt::Key_F1); // lanes come and go with benches
    settle();
    const auto& lanes = window.findChild<StripView*>()->lanes();
    const auto found = std::ranges::find_if(
        lanes, [](const auto& lane) { return dynamic_cast<FilmLane*>(lane.get()) != nullptr; });
    ASSERT_NE(found, lanes.end());
    auto& film = dynamic_cast<FilmLane&>(**found);
    EXPECT_TRUE(film.wanted());
    QImage paper(600, 56, QImage::Format_RGB32);
    const auto paint = [&] {
        paper.fill(Qt::black);
        QPainter painter(&paper);
        film.paint(painter, {QRectF(0, 0, 600, 56), 0.0, 100.0});
    };
    paint();
    ASSERT_TRUE(QTest::qWaitFor(
        [&] {
            paint();
            return film.kept() >= 5;
        },
        kPatience_ms))
        << film.kept();
    int colours = 0;
    for (int x = 0; x < 500; x += 5)
        colours += paper.pixel(x, 28) != paper.pixel(x + 5, 28) ? 1 : 0;
    EXPECT_GT(colours, 20) << "pictures, not one colour";
    EXPECT_TRUE(film.tellAt({10, 10}, {QRectF(0, 0, 600, 56), 0.0, 100.0}).contains("film"));
    window.openPath(QString::fromStdString(demo().piece.string()));
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return window.document().isOpen() && !piece().lead()->has_picture; }, kPatience_ms));
    EXPECT_EQ(film.kept(), 0U) << "nothing of another film is kept";
    EXPECT_TRUE(film.wanted()) << "where the leading take has none, another take's";
    EXPECT_TRUE(film.tellAt({10, 10}, {QRectF(0, 0, 600, 56), 0.0, 100.0}).contains("take 2"));
    window.document().edit(
        "remove", 0.0, [](PieceEditor& e) { return e.removeTake(1); }, Resolve::Nothing);
    settle();
    EXPECT_FALSE(film.wanted());
    EXPECT_FALSE(window.findChild<PictureView*>("otherPicture")->parentWidget()->isVisible())
        << "without a film the room is for the listening";
}

// What the film does not show is listed, and found again by Enter.
TEST_F(FilmBench, WhatIsNotSeenIsListed) {
    openFilm(true);
    auto* rows = window.findChild<QTreeWidget*>("shotRows");
    ASSERT_NE(rows, nullptr);
    ASSERT_TRUE(QTest::qWaitFor([&] { return rows->topLevelItemCount() > 0; }, kPatience_ms));
    const QTreeWidgetItem* first = rows->topLevelItem(0);
    EXPECT_TRUE(first->text(1).contains("hand")) << first->text(1).toStdString();
    EXPECT_TRUE(first->text(3).contains("take 1")) << first->text(3).toStdString();
    emit rows->itemActivated(rows->topLevelItem(0), 0);
    EXPECT_TRUE(window.transport().loop());
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
