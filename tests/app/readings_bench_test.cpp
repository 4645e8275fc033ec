// The Readings bench: readings made, shown and edited, what differs, who decided what, what stays
// open, what new evidence changed, and licks.
#include "app/bench_fixture.h"

#include "app/benches/readings/differences_list.h"
#include "app/benches/readings/paper_view.h"
#include "app/commands/edit_commands.h"
#include "app/commands/reading_commands.h"
#include "piece/in_reading.h"
#include "piece/timeline_map.h"
#include "session/exporting.h"
#include "session/files.h"
#include "session/resolve.h"
#include "support/pieces.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <QTabWidget>
#include <QTreeWidget>
#include <fstream>

namespace wirenote::app {
namespace {

Finger another(Finger finger) {
    return finger == Finger::Little ? Finger::Ring : Finger::Little;
}

class ReadingsBench : public BenchTest {
  protected:
    ReadingsBench() : BenchTest(BenchKind::Readings) {
        Piece tune = test::scalePiece(32);
        placeAndStroke(tune);
        EXPECT_TRUE(writeAny(tune, scratch / "p.wirenote").ok());
        window.openPath(QString::fromStdString((scratch / "p.wirenote").string()));
        EXPECT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
        settle();
    }
    Document& document() { return window.document(); }
    const Piece& whole() { return document().whole(); }
    QTreeWidget* rows(const char* name) { return window.findChild<QTreeWidget*>(name); }
    QListWidget* list() { return window.findChild<QListWidget*>("readingList"); }
    void push(const char* button) {
        QTest::mouseClick(window.findChild<QPushButton*>(button), Qt::LeftButton);
        settle();
    }
    void make(const QString& kind, const QString& value = {}) {
        auto* kinds = window.findChild<QComboBox*>("kindOfReading");
        kinds->setCurrentText(kind);
        window.findChild<QLineEdit*>("valueOfReading")->setText(value);
        const std::size_t before = whole().readings.size();
        push("makeReading");
        EXPECT_TRUE(
            QTest::qWaitFor([&] { return whole().readings.size() > before; }, kPatience_ms));
        settle();
    }
    void settleDerived() {
        settle();
        window.derived().wait();
        settle();
    }
    // A list follows while it is seen.
    QTreeWidget* seen(const char* name) {
        auto* tabs = window.findChild<QTabWidget*>("readingTabs");
        for (int page = 0; page < tabs->count(); ++page)
            if (tabs->widget(page)->isAncestorOf(rows(name)))
                tabs->setCurrentIndex(page);
        settle();
        return rows(name);
    }
    NoteId id(std::size_t note) { return whole().notes[note].id; }
};

TEST_F(ReadingsBench, OneIsMadeAndShownAndWhatWasPlayedStays) {
    const Piece before = whole();
    make("In another key", "3");
    EXPECT_EQ(document().reading(), 1U);
    EXPECT_EQ(list()->currentRow(), 1);
    EXPECT_EQ(piece().notes[0].midi(), before.notes[0].midi() + 3) << "it is shown everywhere";
    EXPECT_EQ(whole().notes, before.notes);
    list()->setCurrentRow(0);
    EXPECT_EQ(document().reading(), 0U);
    EXPECT_EQ(piece().notes[0].midi(), before.notes[0].midi());
    document().undo();
    EXPECT_EQ(whole().readings.size(), 1U);
}

TEST_F(ReadingsBench, UndoTakesTheReadingThatIsShownAway) {
    make("Without open strings");
    ASSERT_EQ(document().reading(), 1U);
    document().undo();
    EXPECT_EQ(document().reading(), 0U);
    EXPECT_EQ(list()->count(), 1);
}

TEST_F(ReadingsBench, AnEditOfItIsItsOwn) {
    make("In another key", "3");
    const Piece before = whole();
    window.selection().choose(id(4));
    window.commands().remove();
    EXPECT_TRUE(whole().readings[1].plans[4].departure.left_out);
    EXPECT_EQ(piece().notes.size(), before.notes.size() - 1);
    EXPECT_EQ(whole().notes, before.notes);
    document().undo();
    EXPECT_EQ(whole(), before);
}

TEST_F(ReadingsBench, WhatDiffersStandsThereAndIsTaken) {
    make("Without open strings");
    settleDerived();
    QTreeWidget* differences = rows("differenceRows");
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return differences->topLevelItemCount() > 0; }, kPatience_ms));
    EXPECT_TRUE(window.findChild<QPushButton*>("takeDifference")->isEnabled());
    const int before = differences->topLevelItemCount();
    differences->setCurrentItem(differences->topLevelItem(0));
    push("takeDifference");
    settleDerived();
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return differences->topLevelItemCount() < before; }, kPatience_ms));
    ASSERT_EQ(whole().readings[1].head.origins.size(), 1U);
    EXPECT_EQ(whole().readings[1].head.origins[0].of, "as played");
    // Into what was played nothing is taken.
    document().showReading(0);
    settleDerived();
    EXPECT_FALSE(window.findChild<QPushButton*>("takeDifference")->isEnabled());
}

TEST_F(ReadingsBench, AClaimThatSomethingStandsAgainstIsRefused) {
    settleDerived();
    auto* claim = window.findChild<QComboBox*>("claim");
    Piece sure = whole();
    for (NotePlan& plan : sure.asPlayed().plans) {
        plan.position.set(plan.position.value);
        plan.finger.set(plan.finger.value);
        plan.stroke.set(plan.stroke.value);
    }
    document().replace("all sure", sure);
    settleDerived();
    claim->setCurrentIndex(1);
    emit claim->activated(1);
    EXPECT_EQ(whole().asPlayed().head.claim, Exactness::NoteForNote);
    make("In another key", "1");
    settleDerived();
    claim->setCurrentIndex(1);
    emit claim->activated(1);
    EXPECT_FALSE(whole().readings[1].head.claim);
    EXPECT_EQ(claim->currentIndex(), 0);
    EXPECT_TRUE(window.findChild<QLabel*>("exactness")->text().startsWith("Adapted"));
}

TEST_F(ReadingsBench, DecisionsAreFoundByWordAndByNote) {
    auto* who = window.findChild<QLineEdit*>("whoDecides");
    who->setText("N. N.");
    emit who->editingFinished();
    window.selection().choose(id(2));
    window.commands().accept();
    window.selection().choose(id(2));
    window.readings().sayWhy(SetWhy::Memory);
    window.selection().choose(id(5));
    window.commands().accept();
    QTreeWidget* decisions = seen("decisionRows");
    const int all = decisions->topLevelItemCount();
    ASSERT_GE(all, 3);
    EXPECT_EQ(decisions->topLevelItem(0)->text(1), "N. N.");
    window.findChild<QLineEdit*>("searchDecisions")->setText("memory");
    settle();
    ASSERT_EQ(decisions->topLevelItemCount(), 1);
    emit decisions->itemActivated(decisions->topLevelItem(0), 0);
    EXPECT_EQ(window.selection().note(), id(2)) << "a row leads to its note";
    window.findChild<QLineEdit*>("searchDecisions")->clear();
    press(Qt::Key_H, Qt::ControlModifier);
    settle();
    EXPECT_EQ(decisions->topLevelItemCount(), 2) << "and the note to its history";
}

TEST_F(ReadingsBench, ADoubtIsLeftOpenWithAWord) {
    Piece unsure = whole();
    unsure.notes[3].pitch.probability = 0.4;
    document().replace("unsure", unsure);
    settleDerived();
    ASSERT_TRUE(window.derived().doubtOf(id(3)));
    window.selection().choose(id(3));
    press(Qt::Key_Return, Qt::ShiftModifier);
    settleDerived();
    EXPECT_FALSE(window.derived().doubtOf(id(3)));
    ASSERT_EQ(whole().notes[3].left_open.size(), 1U);
    EXPECT_EQ(whole().notes[3].left_open[0].word, "does not matter");
    settle();
    ASSERT_EQ(seen("openRows")->topLevelItemCount(), 1);
    press(Qt::Key_O, Qt::ShiftModifier);
    EXPECT_EQ(whole().notes[3].need.kind, Necessity::MayGo);
    press(Qt::Key_O, Qt::ShiftModifier);
    EXPECT_EQ(whole().notes[3].need.kind, Necessity::Ordinary) << "the same again takes it away";
}

TEST_F(ReadingsBench, WhatNewEvidenceChangedIsPutBackOneByOne) {
    const Piece before = whole();
    Piece after = before;
    for (const std::size_t i : {std::size_t{2}, std::size_t{6}}) {
        after.asPlayed().plans[i].finger = {
            another(before.asPlayed().plans[i].finger.value), Basis::Seen, 0.95, {}, {}};
    }
    ASSERT_TRUE(
        document().adopt("look at the film", difference(before, after), document().revision()));
    settle();
    QTreeWidget* review = rows("reviewRows");
    ASSERT_EQ(review->topLevelItemCount(), 2);
    review->topLevelItem(0)->setCheckState(0, Qt::Checked);
    push("putBack");
    EXPECT_EQ(whole().asPlayed().plans[2].finger.value, before.asPlayed().plans[2].finger.value);
    EXPECT_TRUE(whole().asPlayed().plans[2].finger.isSet());
    EXPECT_EQ(whole().asPlayed().plans[6].finger.value, after.asPlayed().plans[6].finger.value);
    EXPECT_EQ(review->topLevelItemCount(), 1);
    document().undo();
    EXPECT_EQ(whole(), after) << "one step to undo";
}

TEST_F(ReadingsBench, WhatWasWrittenIsSaidToBeOldWhenItIs) {
    const QString file = QString::fromStdString((scratch / "sheet.musicxml").string());
    ASSERT_TRUE(window.exporting().exportTo(file));
    ASSERT_EQ(whole().exported.size(), 1U);
    settle();
    EXPECT_EQ(seen("openRows")->topLevelItem(0)->text(1), "written");
    const auto fretted = std::ranges::find_if(piece().asPlayed().plans, [](const NotePlan& plan) {
        return plan.position.value.fret > 0;
    });
    window.selection().choose(fretted->note);
    window.commands().setFinger(another(fretted->finger.value));
    settle();
    EXPECT_EQ(seen("openRows")->topLevelItem(0)->text(1), "written, and out of date");
}

TEST_F(ReadingsBench, LicksAreKeptFoundAndTriedOut) {
    window.selection().chooseAll(id(0), {id(0), id(1), id(2)});
    window.findChild<QLineEdit*>("lickName")->setText("three up");
    window.findChild<QLineEdit*>("lickChord")->setText("Em");
    push("keepLick");
    QTreeWidget* licks = rows("lickRows");
    ASSERT_EQ(licks->topLevelItemCount(), 1);
    licks->setCurrentItem(licks->topLevelItem(0));
    push("findLick");
    settle();
    EXPECT_EQ(window.selection().note(), id(3)) << "two whole tones up, in another key";
    EXPECT_EQ(window.selection().all().size(), 3U);
    auto* over = window.findChild<QLineEdit*>("overChord");
    over->setText("C");
    emit over->returnPressed();
    EXPECT_TRUE(window.findChild<QLabel*>("lickSaid")->text().startsWith("3 ")) << "E over C";
}

TEST_F(ReadingsBench, ManyNotesAreDeletedFromItAlone) {
    make("In another key", "2");
    const std::vector<Note> played = whole().notes;
    std::vector<NoteId> many;
    for (std::size_t i = 4; i < 28; ++i)
        many.push_back(id(i));
    window.selection().chooseAll(many.front(), many);
    window.commands().remove();
    settle();
    EXPECT_EQ(whole().notes, played) << "what was played stays, however many are chosen";
    EXPECT_EQ(piece().notes.size(), played.size() - many.size());
    document().undo();
    EXPECT_EQ(piece().notes.size(), played.size());
}

TEST_F(ReadingsBench, ChordsAreNamedInTheirOwnKey) {
    make("In another key", "2");
    QString refused;
    QObject::connect(&document(), &Document::refused, [&](const QString& why) { refused = why; });
    document().editShown(
        "name", 0.0, [](PieceEditor& e) { return e.nameChord(0.0, "D"); }, Resolve::Nothing);
    EXPECT_TRUE(refused.contains("as played")) << refused.toStdString();
    EXPECT_TRUE(whole().chord_names.empty());
}

TEST_F(ReadingsBench, WhatIsMadeTwiceAfterWorkOnItKeepsBoth) {
    make("Without open strings");
    window.selection().choose(id(2));
    window.commands().accept();
    document().showReading(0);
    make("Without open strings");
    EXPECT_EQ(list()->count(), 3);
    EXPECT_EQ(list()->item(2)->text(), "no open strings (2)");
}

TEST_F(ReadingsBench, WhyAStretchWasTakenStandsInTheLog) {
    make("Without open strings");
    window.selection().choose(id(9));
    window.readings().blend(0, "rings better");
    ASSERT_EQ(whole().readings[1].head.origins.size(), 1U);
    EXPECT_EQ(whole().readings[1].head.origins[0].why, "rings better");
    EXPECT_EQ(whole().log.back().remark, "rings better");
    window.selection().choose(id(2));
    window.commands().accept();
    EXPECT_TRUE(whole().log.back().remark.empty()) << "it was of that edit only";
}

TEST_F(ReadingsBench, WhatWasUndoneIsNoNewEvidenceAnyMore) {
    const Piece before = whole();
    Piece after = before;
    after.asPlayed().plans[2].finger = {
        another(before.asPlayed().plans[2].finger.value), Basis::Seen, 0.95, {}, {}};
    ASSERT_TRUE(document().adopt("look", difference(before, after), document().revision()));
    settle();
    ASSERT_EQ(rows("reviewRows")->topLevelItemCount(), 1);
    document().undo();
    settle();
    EXPECT_EQ(rows("reviewRows")->topLevelItemCount(), 0);
}

TEST_F(ReadingsBench, ListsThatNobodySeesCostNothing) {
    window.showBench(BenchKind::Notes);
    settle();
    const int before = rows("decisionRows")->topLevelItemCount();
    window.selection().choose(id(2));
    window.commands().accept();
    settle();
    EXPECT_EQ(rows("decisionRows")->topLevelItemCount(), before);
    window.showBench(BenchKind::Readings);
    window.findChild<QTabWidget*>("readingTabs")->setCurrentIndex(1);
    settle();
    EXPECT_EQ(rows("decisionRows")->topLevelItemCount(), before + 1) << "they catch up when seen";
}

TEST_F(ReadingsBench, AWrongKindIsRefusedInOneSentenceAndNothingIsMade) {
    QString said;
    QObject::connect(
        &window.readings(), &ReadingCommands::said, [&](const QString& what) { said = what; });
    for (const char* wrong : {"capo:40", "tuning:H2", "transpose:x", "stretch", "score:none.xml"}) {
        said.clear();
        window.readings().make(wrong);
        EXPECT_TRUE(QTest::qWaitFor([&] { return !said.isEmpty(); }, kPatience_ms)) << wrong;
        EXPECT_TRUE(said.endsWith('.')) << said.toStdString();
    }
    EXPECT_EQ(whole().readings.size(), 1U);
    EXPECT_FALSE(document().modified());
}

TEST_F(ReadingsBench, PagesArePinnedByClicksAndLeadToTheirBars) {
    QImage page(300, 400, QImage::Format_RGB32);
    page.fill(Qt::white);
    const QString file = QString::fromStdString((scratch / "page.png").string());
    ASSERT_TRUE(page.save(file));
    auto* paper = window.findChild<PaperView*>();
    window.findChild<QTabWidget*>("readingTabs")->setCurrentWidget(paper);
    paper->addPages(file);
    ASSERT_EQ(whole().papers.size(), 1U);
    auto* sheet = named<QWidget>("Page");
    ASSERT_TRUE(QTest::qWaitFor([&] { return sheet->width() > 300; }, kPatience_ms));
    auto* bar = window.findChild<QSpinBox*>("barToPin");
    EXPECT_EQ(bar->value(), 1);
    push("pinBars");
    const auto click = [&](double x, double y) {
        QTest::mouseClick(
            sheet,
            Qt::LeftButton,
            {},
            QPoint(static_cast<int>(x * sheet->width()), static_cast<int>(y * sheet->height())));
        settle();
    };
    click(0.1, 0.2);
    EXPECT_EQ(bar->value(), 2) << "the next bar is offered";
    bar->setValue(3);
    click(0.1, 0.6);
    ASSERT_EQ(whole().papers[0].pins.size(), 2U);
    EXPECT_NEAR(whole().papers[0].pins[1].y, 0.6, 0.01);
    // The same by keys: the cross lies where the last click was.
    auto* paper_page = window.findChild<QWidget*>("paperPage");
    ASSERT_NE(paper_page, nullptr);
    paper_page->setFocus();
    const std::vector<PagePin> clicked = window.document().whole().papers[0].pins;
    const int next = bar->value();
    for (int i = 0; i < 3; ++i)
        QTest::keyClick(paper_page, Qt::Key_Down);
    QTest::keyClick(paper_page, Qt::Key_Right, Qt::ShiftModifier);
    QTest::keyClick(paper_page, Qt::Key_Return);
    ASSERT_EQ(window.document().whole().papers[0].pins.size(), clicked.size() + 1);
    EXPECT_EQ(window.document().whole().papers[0].pins.back().bar, next);
    undo();
    EXPECT_EQ(window.document().whole().papers[0].pins, clicked);
    push("pinBars"); // up again: clicks lead
    click(0.12, 0.6);
    const TimelineMap map(piece().timeline);
    EXPECT_EQ(map.barBeatAt(window.transport().playhead_s() + 0.01).bar, 3);
    undo();
    EXPECT_EQ(whole().papers[0].pins.size(), 1U);
    std::ofstream((scratch / "bad.pdf")) << "no pages";
    paper->addPages(QString::fromStdString((scratch / "bad.pdf").string()));
    EXPECT_EQ(whole().papers.size(), 1U) << "a wrong file adds nothing";
}

TEST_F(ReadingsBench, AScoreIsComparedWithoutBecomingAReading) {
    Piece other = whole();
    other.notes[3].pitch.value += 1;
    other.asPlayed().plans[3].position = {};
    other.asPlayed().plans[3].position.value = {0, 0};
    placeAndStroke(other);
    const std::string score = (scratch / "score.musicxml").string();
    ASSERT_TRUE(writeAny(other, score).ok());
    window.findChild<DifferencesList*>()->compareWithScore(QString::fromStdString(score));
    QTreeWidget* differences = rows("differenceRows");
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return differences->topLevelItemCount() > 0; }, kPatience_ms));
    EXPECT_EQ(differences->topLevelItem(0)->text(2), "pitch");
    EXPECT_FALSE(window.findChild<QPushButton*>("takeDifference")->isEnabled());
    EXPECT_EQ(whole().readings.size(), 1U);
    EXPECT_EQ(document().compared(), nullptr) << "its notes have numbers of their own";
}

} // namespace
} // namespace wirenote::app
