// The Pulse bench, driven as a person would: tapping, dragging, saying.
#include "app/bench_fixture.h"
#include "app/benches/pulse/form_card.h"
#include "app/benches/pulse/pulse_card.h"
#include "app/strip/map_view.h"
#include "app/text/form_wording.h"

#include "app/commands/take_commands.h"
#include "base/atomic_file.h"
#include "piece/timeline_map.h"
#include "session/files.h"
#include "session/resolve.h"
#include "support/pieces.h"

#include <QLabel>
#include <QPushButton>
#include <QSpinBox>

namespace wirenote::app {
namespace {

class PulseBench : public BenchTest {
  protected:
    PulseBench() : BenchTest(BenchKind::Pulse) {}
    void openDemo() {
        BenchTest::openDemo();
        ASSERT_TRUE(
            QTest::qWaitFor([&] { return !window.derived().form().parts.empty(); }, kPatience_ms));
        QTest::qWait(50);
    }
    const Timeline& timeline() { return piece().timeline; }
};

TEST_F(PulseBench, EverythingOnTheCardIsAnEditThatCanBeUndone) {
    openDemo();
    const Piece before = piece();
    const auto undone = [&](const char* what) {
        EXPECT_FALSE(piece() == before) << what;
        EXPECT_EQ(piece().notes, before.notes) << what << ": no note moves";
        undoAll();
        EXPECT_TRUE(piece() == before) << what;
    };
    named<QDoubleSpinBox>("Tempo in beats a minute")->setValue(100.0);
    EXPECT_NEAR(timeline().tempo_bpm, 100.0, 0.1);
    undone("tempo");
    named<QPushButton>("slower")->click();
    EXPECT_NEAR(timeline().tempo_bpm, 0.5 * before.timeline.tempo_bpm, 0.5);
    undone("slower");
    named<QPushButton>("faster")->click();
    EXPECT_NEAR(timeline().tempo_bpm, 2.0 * before.timeline.tempo_bpm, 1.0);
    undone("faster");
    named<QSpinBox>("From which bar the metre counts")->setValue(3);
    auto* metre = named<QComboBox>("Metre");
    metre->setCurrentText("3/4");
    emit metre->activated(metre->currentIndex());
    ASSERT_EQ(timeline().changes.size(), 1U);
    EXPECT_EQ(timeline().changes[0], (MetreChange{3, {3, 4}}));
    undone("metre");
    named<QSpinBox>("Pick-up in quavers")->setValue(2);
    EXPECT_NEAR(TimelineMap(timeline()).quartersAt(piece().notes.front().onset_s()), -1.0, 0.1);
    undone("pick-up");
    named<QDoubleSpinBox>("Swing: first half of the beat to the second")->setValue(1.5);
    EXPECT_DOUBLE_EQ(timeline().swing, 1.5);
    undone("swing");
}

TEST_F(PulseBench, TheBeatIsTappedWhileItPlays) {
    openDemo();
    const auto before = timeline();
    QTest::keyClick(&window.strip(), Qt::Key_Z);
    EXPECT_EQ(window.pulse().taps(), 0U) << "nothing plays";
    window.transport().seek(1.0);
    window.transport().play();
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return window.transport().playhead_s() > 1.05; }, kPatience_ms));
    for (int i = 0; i < 6; ++i) {
        QTest::keyClick(&window.strip(), Qt::Key_Z);
        QTest::qWait(400);
    }
    EXPECT_EQ(window.pulse().taps(), 6U);
    window.transport().pause();
    ASSERT_TRUE(QTest::qWaitFor([&] { return window.pulse().taps() == 0; }, kPatience_ms));
    EXPECT_FALSE(timeline() == before);
    EXPECT_EQ(timeline().pinned.size(), 6U);
    EXPECT_EQ(timeline().basis, Basis::Set);
    undoAll();
    EXPECT_TRUE(timeline() == before);
}

TEST_F(PulseBench, ABeatIsDraggedInTheCountAndStays) {
    openDemo();
    const auto before = timeline();
    const double gutter = 62.0;
    const auto xOf = [&](double t) {
        return gutter + t / 8.0 * (window.strip().width() - gutter - 4);
    };
    std::size_t beat = 0;
    while (before.beats_s[beat] < 3.0)
        ++beat;
    const double from = before.beats_s[beat];
    const QPoint at(static_cast<int>(xOf(from)), 24 + 13);
    const QPoint to(static_cast<int>(xOf(from + 0.12)), 24 + 13);
    QTest::mousePress(&window.strip(), Qt::LeftButton, {}, at);
    QTest::mouseMove(&window.strip(), at + QPoint(6, 0));
    QTest::mouseMove(&window.strip(), to);
    QTest::mouseRelease(&window.strip(), Qt::LeftButton, {}, to);
    EXPECT_NEAR(timeline().beats_s[beat], from + 0.12, 0.02);
    ASSERT_EQ(timeline().pinned.size(), 1U);
    EXPECT_EQ(timeline().pinned[0], static_cast<int>(beat));
    undoAll();
    EXPECT_TRUE(timeline() == before);
    EXPECT_FALSE(window.transport().loop().has_value()) << "a drag in the count is no loop";
}

TEST_F(PulseBench, TheCountIsSaidInTheChosenSchool) {
    openDemo();
    auto* school = named<QComboBox>("How to count");
    school->setCurrentIndex(2);
    emit school->activated(2);
    settle();
    EXPECT_EQ(window.derived().count().front().text, "ta");
    EXPECT_EQ(settings.value("count/school").toInt(), 2);
    school->setCurrentIndex(0);
    emit school->activated(0);
    settle();
    EXPECT_NE(window.derived().count().front().text, "ta");
}

TEST_F(PulseBench, TheFormIsShownGoneToKeptAndNamed) {
    openDemo();
    const Piece before = piece();
    const auto parts = window.derived().form().parts;
    ASSERT_GT(parts.size(), 2U);
    QTest::keyClick(&window.strip(), Qt::Key_BracketRight);
    QTest::keyClick(&window.strip(), Qt::Key_BracketRight);
    EXPECT_NEAR(window.transport().playhead_s(), parts[1].span.start_s, 1e-6);
    QTest::keyClick(&window.strip(), Qt::Key_Backslash);
    ASSERT_TRUE(window.transport().loop().has_value());
    EXPECT_NEAR(window.transport().loop()->end_s, parts[1].span.end_s, 1e-6);
    QTest::keyClick(&window.strip(), Qt::Key_Backslash);
    EXPECT_FALSE(window.transport().loop().has_value());
    auto* keep = named<QPushButton>("keepForm");
    ASSERT_NE(keep, nullptr);
    keep->click();
    ASSERT_EQ(timeline().sections.size(), parts.size());
    EXPECT_EQ(timeline().sections[0].label, "A");
    window.pulse().renameSection(0, "Low water");
    EXPECT_EQ(timeline().sections[0].label, "Low water");
    undoAll();
    EXPECT_TRUE(piece() == before);
}

TEST_F(PulseBench, TheLoopBecomesASectionAndIsSaidInBars) {
    openDemo();
    const auto before = timeline();
    window.pulse().loopIsSection();
    EXPECT_TRUE(timeline() == before) << "no loop, no section";
    const auto downbeats = timeline().downbeats_s();
    window.transport().setLoop(TimeRange{downbeats[1], downbeats[3]});
    QTest::qWait(20);
    bool said = false;
    for (const QLabel* label : window.findChildren<QLabel*>())
        said = said || label->text().contains("loop bars 2–3");
    EXPECT_TRUE(said);
    window.pulse().loopIsSection();
    ASSERT_EQ(timeline().sections.size(), 1U);
    EXPECT_DOUBLE_EQ(timeline().sections[0].span.start_s, downbeats[1]);
    undoAll();
    EXPECT_TRUE(timeline() == before);
}

TEST_F(PulseBench, ADoubtfulBeatIsReadOtherwiseFromTheCard) {
    std::vector<test::Row> rows;
    for (const double quarters : {0.0, 0.71, 1.0, 2.0, 3.0})
        rows.push_back({0.5 * quarters, 0.5 * quarters + 0.1, 60, {2, 1}});
    ASSERT_TRUE(writeAny(test::pieceOf(rows), scratch / "loose.wirenote").ok());
    window.openPath(QString::fromStdString((scratch / "loose.wirenote").string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
    window.showBench(BenchKind::Notes);
    window.selection().choose(piece().notes[1].id);
    QTest::qWait(60);
    auto* other = window.findChild<QPushButton*>("otherDivision");
    ASSERT_NE(other, nullptr);
    const int parts = window.derived().beats().front().other_parts;
    other->click();
    settle();
    EXPECT_EQ(window.derived().beats().front().parts, parts);
    undoAll();
    settle();
    EXPECT_NE(window.derived().beats().front().parts, parts);
}

TEST_F(PulseBench, TheLanesSayWhatLiesUnderTheMouse) {
    openDemo();
    const double x = 62.0 + 2.0 / 8.0 * (window.strip().width() - 66.0); // second 2 of 8
    EXPECT_TRUE(window.strip().words({x, 12.0}).startsWith("A")) << "form";
    EXPECT_TRUE(window.strip().words({x, 24 + 26 + 27.0}).contains("beats a minute")) << "tempo";
    double beat_x = 0.0;
    for (const double beat : timeline().beats_s)
        if (beat > 1.0 && beat_x == 0.0)
            beat_x = 62.0 + beat / 8.0 * (window.strip().width() - 66.0);
    EXPECT_TRUE(window.strip().words({beat_x, 24 + 13.0}).contains("drag this beat")) << "count";
}

// Whoever calibrates by the wrong recording is told so, and nothing changes.
TEST_F(PulseBench, AWrongCalibrationIsOneSentence) {
    openDemo();
    const Piece before = piece();
    QString said;
    QObject::connect(
        &window.takes(), &TakeCommands::warned, &window, [&said](const QString& s) { said = s; });
    ASSERT_TRUE(writeFileAtomically(scratch / "no.wav", "this is no sound").ok());
    window.takes().calibrate(QString::fromStdString((scratch / "no.wav").string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return !said.isEmpty(); }, kPatience_ms));
    EXPECT_TRUE(said.contains("no.wav")) << said.toStdString();
    said.clear();
    window.takes().useCalibration(QString::fromStdString((scratch / "no.wav").string()));
    EXPECT_TRUE(said.contains("no.wav")) << said.toStdString();
    EXPECT_TRUE(piece() == before);
}

TEST_F(PulseBench, TheMapGoesThereAndLoops) {
    openDemo();
    auto* map = window.findChild<MapView*>("map");
    ASSERT_NE(map, nullptr);
    const int middle = map->width() / 2;
    QTest::mouseClick(map, Qt::LeftButton, {}, QPoint(middle, 15));
    EXPECT_NEAR(window.transport().playhead_s(), 0.5 * window.document().length_s(), 0.5);
    QTest::mousePress(map, Qt::LeftButton, {}, QPoint(middle, 15));
    QTest::mouseMove(map, QPoint(middle + 20, 15));
    QTest::mouseMove(map, QPoint(middle + 120, 15));
    QTest::mouseRelease(map, Qt::LeftButton, {}, QPoint(middle + 120, 15));
    ASSERT_TRUE(window.transport().loop().has_value());
    EXPECT_GT(window.transport().loop()->length_s(), 1.0);
}

TEST_F(PulseBench, ADecisionIsTakenOverToAllRepeats) {
    Piece scale = test::scalePiece(64); // the same bar eight times
    placeAndStroke(scale);
    ASSERT_TRUE(writeAny(scale, scratch / "scale.wirenote").ok());
    window.openPath(QString::fromStdString((scratch / "scale.wirenote").string()));
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return !window.derived().form().phrases.empty(); }, kPatience_ms));
    const Piece before = piece();
    NoteId chosen = 0;
    for (const Note& note : piece().notes)
        if (window.pulse().repeatsOf(note.id).size() > 0 &&
            !piece().plan(note.id)->position.runners_up.empty())
            chosen = note.id;
    ASSERT_NE(chosen, 0) << "the bar comes again";
    const auto others = window.pulse().repeatsOf(chosen);
    const int string = piece().plan(chosen)->position.runners_up.front().value.string;
    window.selection().choose(chosen);
    QTest::keyClick(&window.strip(), static_cast<Qt::Key>(Qt::Key_0 + string));
    ASSERT_EQ(piece().plan(chosen)->position.value.string, string);
    QTest::qWait(400); // the form is looked for again
    const Piece decided = piece();
    QTest::keyClick(&window.strip(), Qt::Key_Return, Qt::ControlModifier);
    EXPECT_TRUE(piece() == decided) << "first it shows what it would change";
    EXPECT_EQ(window.selection().marked(), others);
    QTest::keyClick(&window.strip(), Qt::Key_Return, Qt::ControlModifier);
    EXPECT_TRUE(window.selection().marked().empty());
    for (const NoteId other : others) {
        EXPECT_EQ(piece().plan(other)->position.value, piece().plan(chosen)->position.value);
        EXPECT_TRUE(piece().plan(other)->position.isSet());
    }
    undoAll();
    EXPECT_TRUE(piece() == before);
}

TEST(FormWording, SaysDifferencesAsMusiciansDo) {
    BarContent a;
    a.number = 3;
    a.events = {{0, 1, 60, 0}, {1, 1, 62, 1}, {2, 1, 64, 2}, {3, 1, 65, 3}};
    BarContent b = a;
    b.number = 7;
    b.events[2].midi -= 12;
    b.events[3].midi -= 12;
    Phrase phrase{"A", 1, {{3, 0, {{}}, {false}}, {7, 0, {differencesOf(a, b)}, {false}}}};
    std::vector<BarContent> bars{a};
    EXPECT_EQ(differenceText(bars, phrase, 1).join(""),
              "bar 7 as bar 3: the last 2 notes are an octave lower");
    b = a;
    b.events.erase(b.events.begin() + 1);
    phrase.occurrences[1].differences = {differencesOf(a, b)};
    EXPECT_EQ(differenceText(bars, phrase, 1).join(""), "bar 7 as bar 3: without the note on 2");
    b = a;
    b.events[3].at = Rational(7, 2);
    phrase.occurrences[1].differences = {differencesOf(a, b)};
    EXPECT_EQ(differenceText(bars, phrase, 1).join(""),
              "bar 7 as bar 3: the note on 4 comes half a beat later");
    EXPECT_TRUE(differenceText(bars, phrase, 0).isEmpty());
    EXPECT_EQ(intervalText(-1), "1 semitone lower");
}

} // namespace
} // namespace wirenote::app
