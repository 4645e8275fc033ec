// What the takes show, in the real window: a recording in which a piece is played, and parts of it
// slowly and wrongly afterwards.
#include "app/bench_fixture.h"

#include "app/benches/takes/forms_view.h"
#include "app/commands/playings.h"
#include "media/sound_file.h"
#include "session/resolve.h"
#include "sounding/render.h"
#include "support/shown_piece.h"

#include <QTabWidget>
#include <QTreeWidget>

namespace wirenote::app {
namespace {

using test::barsRows;
using test::kBar_s;
using test::Row;

constexpr double kPause_s = 4.0;

class PlayingsTest : public BenchTest {
  protected:
    PlayingsTest() : BenchTest(BenchKind::Takes) {
        std::vector<Row> rows = barsRows(0, 4, 0.5);
        const auto play = [&rows](std::vector<Row> more) {
            rows.insert(rows.end(), more.begin(), more.end());
        };
        play(barsRows(1, 2, rows.back().end_s + kPause_s, 0.6));
        std::vector<Row> wrong = barsRows(1, 2, rows.back().end_s + kPause_s, 0.8);
        wrong[3].midi += 1;
        wrong[10].midi += 2;
        play(wrong);
        Piece played = test::pieceOf(rows);
        placeAndStroke(played);
        const auto sound = renderPiece(played, {}, {});
        EXPECT_TRUE(sound.ok());
        EXPECT_TRUE(writeWav(scratch / "shown.wav", sound->view()).ok());
        window.openPath(QString::fromStdString((scratch / "shown.wav").string()));
        EXPECT_TRUE(QTest::qWaitFor([&] { return heard(); }, kPatience_ms));
        settle();
    }
    bool heard() {
        return window.takes().hearing() == TakeCommands::Hearing::Heard && !window.jobs().running();
    }
    const std::vector<Demonstration>& shown() { return piece().lead()->demonstrations; }
    QTreeWidget& list(const char* name) { return *named<QTreeWidget>(name); }
};

TEST_F(PlayingsTest, AreFoundWhenTheTakeIsHeardAndListed) {
    ASSERT_EQ(shown().size(), 3U);
    EXPECT_TRUE(shown()[0].isItself());
    EXPECT_FALSE(shown()[2].learn.value);
    QTreeWidget& rows = list("playedRows");
    ASSERT_TRUE(QTest::qWaitFor([&] { return rows.topLevelItemCount() == 3; }, kPatience_ms));
    EXPECT_TRUE(rows.topLevelItem(0)->text(3).contains("Ctrl+D")) << "what is asked stands first";
    EXPECT_TRUE(rows.topLevelItem(2)->text(1).contains("0.60 times as fast"))
        << rows.topLevelItem(2)->text(1).toStdString();
    undo();
    EXPECT_TRUE(piece().notes.empty()) << "it came with the hearing and goes with it";
}

TEST_F(PlayingsTest, AreReachedAndHeardByKeys) {
    auto* tabs = named<QTabWidget>("takeTabs");
    ASSERT_TRUE(tabs);
    press(Qt::Key_Semicolon);
    EXPECT_EQ(tabs->currentIndex(), 1);
    QTreeWidget& rows = list("playedRows");
    EXPECT_TRUE(rows.hasFocus());
    QTest::keyClick(&rows, Qt::Key_Return);
    EXPECT_EQ(window.transport().demonstration(), std::optional<std::size_t>(2));
    EXPECT_TRUE(window.transport().playing());
    QTest::keyClick(&rows, Qt::Key_Semicolon);
    EXPECT_EQ(tabs->currentIndex(), 2);
}

TEST_F(PlayingsTest, OfOnePlaceAreHeardByOneKeySlowOnesFirst) {
    window.transport().seek(0.5 + 1.5 * kBar_s);
    std::vector<std::size_t> heard;
    for (int k = 0; k < 3; ++k) {
        press(Qt::Key_X, Qt::ShiftModifier);
        ASSERT_TRUE(window.transport().demonstration());
        EXPECT_TRUE(window.transport().playing());
        heard.push_back(*window.transport().demonstration());
        window.transport().pause();
        EXPECT_NEAR(window.transport().playhead_s(), 0.5 + 1.5 * kBar_s, 0.5)
            << "the musical place stays";
    }
    EXPECT_EQ(heard, (std::vector<std::size_t>{1, 2, 0}));
    press(Qt::Key_X); // the take as it goes
    window.transport().setTake(0);
    EXPECT_FALSE(window.transport().demonstration());
}

TEST_F(PlayingsTest, AreCountedOrNotByAKey) {
    const Piece before = piece();
    window.transport().seek(shown()[2].span.start_s + 0.5);
    press(Qt::Key_D, Qt::ControlModifier);
    EXPECT_TRUE(shown()[2].learn.value);
    EXPECT_TRUE(shown()[2].learn.isSet());
    press(Qt::Key_D, Qt::ControlModifier);
    EXPECT_FALSE(shown()[2].learn.value);
    undo();
    undo();
    EXPECT_TRUE(piece() == before);
    window.transport().seek(1.0);
    press(Qt::Key_D, Qt::ControlModifier);
    EXPECT_TRUE(shown()[0].learn.value) << "what is written down always counts";
}

TEST_F(PlayingsTest, DifferencesAndBarsAreListed) {
    QTreeWidget& variants = list("variantRows");
    ASSERT_TRUE(QTest::qWaitFor([&] { return variants.topLevelItemCount() == 2; }, kPatience_ms));
    EXPECT_TRUE(variants.topLevelItem(0)->text(0).contains("1 of 3"));
    QTreeWidget& bars = list("barRows");
    EXPECT_GE(bars.topLevelItemCount(), 4);
    bool slow = false;
    for (int i = 0; i < bars.topLevelItemCount(); ++i)
        slow = slow || bars.topLevelItem(i)->text(3).contains("0.60 times as fast");
    EXPECT_TRUE(slow);
}

TEST_F(PlayingsTest, ABarIsWrittenDownAsAnotherPlayingHasIt) {
    const auto before = piece().notes.size();
    window.transport().seek(0.5 + 1.3 * kBar_s);
    press(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_TRUE(piece().followed.empty() || piece().notes.size() == before)
        << "as the leading take plays it: nothing changes";
    window.playings().hear({0, 2}); // with two other notes, one a bar
    window.transport().pause();
    window.transport().setLoop(TimeRange{0.5 + 1.0 * kBar_s, 0.5 + 3.0 * kBar_s});
    press(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_EQ(piece().followed.size(), 1U);
    const auto right = barsRows(1, 2, 0.5 + kBar_s);
    const auto midiAt = [&](double at_s) {
        for (const Note& note : piece().notes)
            if (std::abs(note.onset_s() - at_s) < 0.1)
                return note.midi();
        return 0;
    };
    EXPECT_EQ(midiAt(right[3].start_s), right[3].midi + 1);
    EXPECT_EQ(midiAt(right[10].start_s), right[10].midi + 2);
    EXPECT_EQ(midiAt(right[5].start_s), right[5].midi);
    undo();
    EXPECT_TRUE(piece().followed.empty());
    EXPECT_EQ(midiAt(right[3].start_s), right[3].midi);
}

TEST_F(PlayingsTest, OnlyWhatIsPlayedIsLooped) {
    window.transport().seek(shown()[1].span.start_s + 1.0);
    press(Qt::Key_L, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_TRUE(window.transport().loop());
    EXPECT_NEAR(window.transport().loop()->start_s, shown()[1].span.start_s, 0.01);
    EXPECT_NEAR(window.transport().loop()->end_s, shown()[1].span.end_s, 0.01);
}

// Stroke by stroke, each by itself, for checking on one's own instrument.
TEST_F(PlayingsTest, TheTabIsDictatedByOneKey) {
    press(Qt::Key_Home);
    const NoteId first = piece().notes.front().id;
    ASSERT_EQ(window.selection().note(), first);
    press(Qt::Key_Space, Qt::ShiftModifier);
    EXPECT_EQ(window.selection().note(), piece().notes[1].id);
    ASSERT_TRUE(window.transport().auditioned());
    EXPECT_EQ(window.transport().auditioned()->notes, std::vector<NoteId>{piece().notes[1].id});
    press(Qt::Key_Space, Qt::ShiftModifier);
    EXPECT_EQ(window.selection().note(), piece().notes[2].id);
    press(Qt::Key_Backspace, Qt::ShiftModifier);
    EXPECT_EQ(window.selection().note(), piece().notes[1].id);
    press(Qt::Key_H, Qt::AltModifier);
    EXPECT_EQ(window.selection().note(), piece().notes[1].id);
    EXPECT_TRUE(window.transport().auditioned());
    press(Qt::Key_Space);
    EXPECT_FALSE(window.transport().auditioned()) << "stopped, all is as it was";
}

// A second take that leaves the first bar out and plays the second twice.
TEST_F(PlayingsTest, TheFormsOfTwoTakesAreHeldAgainstEachOther) {
    EXPECT_EQ(list("formRows").topLevelItemCount(), 0) << "there is one take only";
    std::vector<Row> rows = barsRows(1, 2, 0.5);
    for (const Row& row : barsRows(1, 3, rows.back().end_s + 0.05))
        rows.push_back(row);
    Piece played = test::pieceOf(rows);
    placeAndStroke(played);
    const auto sound = renderPiece(played, {}, {});
    ASSERT_TRUE(sound.ok());
    ASSERT_TRUE(writeWav(scratch / "version.wav", sound->view()).ok());
    window.takes().add({QString::fromStdString((scratch / "version.wav").string())});
    ASSERT_TRUE(QTest::qWaitFor(
        [&] {
            return piece().takes.size() == 2 && !piece().takes[1].demonstrations.empty() &&
                   !window.jobs().running();
        },
        kPatience_ms));
    QTreeWidget& differences = list("formRows");
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return differences.topLevelItemCount() == 2; }, kPatience_ms));
    EXPECT_TRUE(differences.topLevelItem(0)->text(1).startsWith("begins without "))
        << differences.topLevelItem(0)->text(1).toStdString();
    EXPECT_TRUE(differences.topLevelItem(1)->text(1).endsWith("once more"));
    emit differences.itemActivated(differences.topLevelItem(1), 0);
    EXPECT_EQ(window.transport().take(), 1U);
    EXPECT_TRUE(window.transport().playing());
    emit differences.itemActivated(differences.topLevelItem(0), 0);
    EXPECT_EQ(window.transport().take(), 0U) << "what the take lacks is heard in the piece";
    auto* forms = named<FormsView>("forms");
    ASSERT_EQ(forms->shown().ties.size(), 2U);
    // A click on the right half of the lower map goes to the second visit.
    window.transport().pause();
    QTest::mouseClick(forms, Qt::LeftButton, {}, {forms->width() * 3 / 4, 90});
    EXPECT_EQ(window.transport().take(), 1U);
    EXPECT_EQ(window.transport().demonstration(), std::optional<std::size_t>(1));
}

} // namespace
} // namespace wirenote::app
