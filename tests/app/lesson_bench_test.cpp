// The Lesson bench: steps and their texts, phrases cut and left out, what people stumble over, what
// is said, the prompt, and the pack.
#include "app/bench_fixture.h"

#include "app/benches/lesson/lesson_card.h"
#include "app/benches/lesson/prompt_view.h"
#include "app/commands/lesson_commands.h"
#include "app/document/lesson_book.h"
#include "app/playing/transport.h"
#include "session/files.h"
#include "session/resolve.h"
#include "support/pieces.h"

#include <QApplication>
#include <QComboBox>
#include <QDir>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMessageBox>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTabWidget>
#include <QTimer>
#include <QTreeWidget>
#include <fstream>

namespace wirenote::app {
namespace {

class LessonBench : public BenchTest {
  protected:
    LessonBench() : BenchTest(BenchKind::Lesson) {
        Piece tune = test::scalePiece(48);
        placeAndStroke(tune);
        EXPECT_TRUE(writeAny(tune, scratch / "p.wirenote").ok());
        window.openPath(QString::fromStdString((scratch / "p.wirenote").string()));
        EXPECT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
        settleLesson();
    }
    void settleLesson() {
        settle();
        window.lessonBook().wait();
        settle();
    }
    const LessonPlan& plan() { return window.document().whole().lesson; }
    std::shared_ptr<const LessonState> state() { return window.lessonBook().state(); }
    QListWidget* steps() { return window.findChild<QListWidget*>("lessonSteps"); }
    QPlainTextEdit* text() { return window.findChild<QPlainTextEdit*>("stepText"); }
    void push(const char* button) {
        QTest::mouseClick(window.findChild<QPushButton*>(button), Qt::LeftButton);
        settleLesson();
    }
    void choose(StepKind kind) {
        for (std::size_t s = 0; s < state()->breakdown.steps.size(); ++s)
            if (state()->breakdown.steps[s].kind == kind) {
                steps()->setCurrentRow(static_cast<int>(s));
                break;
            }
        settle();
    }
    void showPage(const QString& name) {
        auto* tabs = window.findChild<QTabWidget*>("lessonTabs");
        for (int page = 0; page < tabs->count(); ++page)
            if (tabs->tabText(page) == name)
                tabs->setCurrentIndex(page);
        settle();
    }
    QTreeWidget* rows(const char* name) { return window.findChild<QTreeWidget*>(name); }
};

TEST_F(LessonBench, EveryStepStandsThereWithItsText) {
    ASSERT_EQ(steps()->count(), static_cast<int>(state()->breakdown.steps.size()));
    choose(StepKind::Fretting);
    EXPECT_TRUE(text()->toPlainText().contains("string"));
    EXPECT_TRUE(window.findChild<QLabel*>("stepTitle")->text().startsWith("Phrase A"));
    EXPECT_FALSE(window.findChild<QLabel*>("stepPicture")->pixmap().isNull());
    choose(StepKind::Whole);
    EXPECT_TRUE(text()->isReadOnly()) << "it follows from several phrases";
}

TEST_F(LessonBench, KeysGoFromStepToStepAndPlayOne) {
    QTest::keyClick(&window.strip(), Qt::Key_J, Qt::ControlModifier);
    settle();
    EXPECT_EQ(window.lessonBook().step(), 1U);
    EXPECT_EQ(steps()->currentRow(), 1);
    QTest::keyClick(&window.strip(), Qt::Key_J, Qt::ControlModifier | Qt::ShiftModifier);
    settle();
    EXPECT_EQ(window.lessonBook().step(), 0U);
    window.transport().seek(0.5);
    QTest::keyClick(&window.strip(), Qt::Key_K, Qt::ControlModifier);
    settleLesson();
    EXPECT_FALSE(plan().phrases.empty());
}

TEST_F(LessonBench, ATextIsChangedKeptAndUndone) {
    choose(StepKind::Fretting);
    const QString made = text()->toPlainText();
    text()->setFocus();
    text()->setPlainText("Press gently.");
    steps()->setFocus();
    settleLesson();
    ASSERT_EQ(plan().words.size(), 1U);
    EXPECT_EQ(plan().words[0].text, "Press gently.");
    choose(StepKind::Plucking);
    choose(StepKind::Fretting);
    EXPECT_EQ(text()->toPlainText(), "Press gently.");
    push("writeAsMade");
    EXPECT_TRUE(plan().words.empty());
    EXPECT_EQ(text()->toPlainText(), made);
    window.document().undo();
    EXPECT_EQ(plan().words.size(), 1U);
    window.document().undo();
    EXPECT_TRUE(plan().words.empty());
}

TEST_F(LessonBench, ATextThatIsWrongOrAmbiguousIsMarked) {
    choose(StepKind::Fretting);
    const NotePlan& first = piece().asPlayed().plans[0];
    const int wrong = first.position.value.string == 3 ? 4 : 3;
    window.lesson().write(QString("Bar 1, beat 1: string %1, fret %2. Then 7.")
                              .arg(wrong)
                              .arg(first.position.value.fret));
    settleLesson();
    const QString remarks = window.findChild<QLabel*>("stepRemarks")->text();
    EXPECT_TRUE(remarks.contains(
        QString("said string %1; it is string %2").arg(wrong).arg(first.position.value.string)))
        << remarks.toStdString();
    EXPECT_TRUE(remarks.contains("“7”")) << remarks.toStdString();
}

TEST_F(LessonBench, PhrasesAreCutJoinedLeftOutAndFoundAgain) {
    const std::size_t before = state()->breakdown.phrases.size();
    window.transport().seek(0.5);
    push("cutPhrase");
    EXPECT_EQ(state()->breakdown.phrases.size(), before + 1);
    window.transport().seek(0.2);
    push("joinPhrase");
    EXPECT_EQ(state()->breakdown.phrases.size(), before);
    choose(StepKind::Context);
    push("leavePhraseOut");
    EXPECT_EQ(state()->breakdown.left_out().size(), 1U);
    push("cutsAsFound");
    EXPECT_TRUE(plan().phrases.empty());
    EXPECT_EQ(state()->breakdown.phrases.size(), before);
}

TEST_F(LessonBench, WhereAPhraseBeginsIsMoved) {
    ASSERT_GE(state()->breakdown.phrases.size(), 2U);
    const double was_s = state()->breakdown.phrases[1].span.start_s;
    window.lesson().moveCut(1, was_s - 0.5);
    settleLesson();
    EXPECT_NEAR(state()->breakdown.phrases[1].span.start_s, was_s - 0.5, 0.01);
    EXPECT_NEAR(state()->breakdown.phrases[0].span.end_s, was_s - 0.5, 0.01);
    window.lesson().moveCut(1, -5.0); // not before the phrase that is there
    settleLesson();
    EXPECT_NEAR(state()->breakdown.phrases[1].span.start_s, was_s - 0.5, 0.01);
}

TEST_F(LessonBench, TheTeachersWaysChangeWhatIsSaid) {
    choose(StepKind::Fretting);
    EXPECT_TRUE(text()->toPlainText().contains("string "));
    auto* naming = window.findChild<QComboBox*>("stringNaming");
    naming->setCurrentIndex(2);
    emit naming->activated(2);
    settleLesson();
    EXPECT_EQ(plan().manner.strings, StringNaming::ThickThin);
    choose(StepKind::Fretting);
    EXPECT_TRUE(text()->toPlainText().contains("thickest string") ||
                text()->toPlainText().contains("thinnest string"));
    auto* order = window.findChild<QComboBox*>("teachingOrder");
    order->setCurrentIndex(1);
    emit order->activated(1);
    settleLesson();
    EXPECT_EQ(state()->breakdown.steps[2].kind, StepKind::Plucking);
    auto* tempi = window.findChild<QLineEdit*>("lessonTempi");
    tempi->setText("50, 75, 110");
    emit tempi->editingFinished();
    settleLesson();
    EXPECT_EQ(plan().manner.tempi, (std::vector<double>{0.5, 0.75, 1.1}));
}

TEST_F(LessonBench, OwnWordsAreTypedAndUsed) {
    showPage("About it, own words");
    auto* glossary = window.findChild<QPlainTextEdit*>("glossary");
    glossary->setFocus();
    glossary->setPlainText("down-stroke = chop\nnonsense\n = x");
    window.findChild<QLineEdit*>("lessonLevel")->setFocus();
    settleLesson();
    ASSERT_EQ(plan().manner.glossary.size(), 1U);
    EXPECT_EQ(plan().manner.glossary[0].own, "chop");
    auto* level = window.findChild<QLineEdit*>("lessonLevel");
    level->setText("for beginners");
    emit level->editingFinished();
    EXPECT_EQ(plan().level, "for beginners");
    showPage("Steps");
    choose(StepKind::Plucking);
    EXPECT_TRUE(text()->toPlainText().contains("chop"));
}

TEST_F(LessonBench, WhereAPhraseBeginsIsDraggedOnTheStrip) {
    const Breakdown& found = state()->breakdown;
    ASSERT_GE(found.phrases.size(), 2U);
    const double from_s = found.phrases[1].span.start_s;
    ASSERT_LT(from_s, 7.0) << "on the strip as it opens";
    const double gutter = 62.0; // as in the count
    const auto xOf = [&](double t) {
        return static_cast<int>(gutter + t / 8.0 * (window.strip().width() - gutter - 4));
    };
    const int y = 24 + 15; // under the count
    const double beat_s = 60.0 / piece().timeline.tempo_bpm;
    const QPoint at(xOf(from_s), y), to(xOf(from_s - beat_s), y);
    QTest::mousePress(&window.strip(), Qt::LeftButton, {}, at);
    QTest::mouseMove(&window.strip(), at - QPoint(6, 0));
    QTest::mouseMove(&window.strip(), to);
    QTest::mouseRelease(&window.strip(), Qt::LeftButton, {}, to);
    settleLesson();
    ASSERT_GE(plan().phrases.size(), 2U);
    EXPECT_NEAR(state()->breakdown.phrases[1].span.start_s, from_s - beat_s, 0.05);
    EXPECT_FALSE(window.transport().loop().has_value());
    undo();
    settleLesson();
    EXPECT_NEAR(state()->breakdown.phrases[1].span.start_s, from_s, 1e-6);
}

TEST_F(LessonBench, WhatPupilsDoIsNotedAtThePlayhead) {
    showPage("Where people stumble");
    const int before = rows("stumbleRows")->topLevelItemCount();
    window.transport().seek(1.0);
    window.findChild<QLineEdit*>("observation")->setText("they rush");
    push("observe");
    ASSERT_EQ(plan().observations.size(), 1U);
    EXPECT_NEAR(plan().observations[0].at_s, 1.0, 0.01);
    EXPECT_EQ(rows("stumbleRows")->topLevelItemCount(), before + 1);
}

TEST_F(LessonBench, CaptionsAreHeldAgainstTheTab) {
    const NotePlan& first = piece().asPlayed().plans[0];
    std::ofstream(scratch / "said.srt")
        << "1\n00:00:00,000 --> 00:00:00,400\nBar 1, beat 1: string " << first.position.value.string
        << ", fret " << first.position.value.fret + 1 << ".\n";
    window.lesson().useCaptions(QString::fromStdString((scratch / "said.srt").string()));
    settleLesson();
    showPage("What is said");
    ASSERT_EQ(rows("claimRows")->topLevelItemCount(), 1);
    EXPECT_EQ(rows("claimRows")->topLevelItem(0)->text(2), "contradicts");
    window.findChild<QComboBox*>("claimsShown")->setCurrentIndex(2);
    EXPECT_GT(rows("claimRows")->topLevelItemCount(), 1);
    emit rows("claimRows")->itemActivated(rows("claimRows")->topLevelItem(0), 0);
    EXPECT_EQ(window.selection().note(), piece().notes[0].id);
    window.lesson().useCaptions("/nowhere/said.srt");
    settleLesson();
    EXPECT_EQ(rows("claimRows")->topLevelItemCount(), 0);
}

TEST_F(LessonBench, WhatOtherTakesPlayOtherwiseStandsBesideWhatIsSaid) {
    Piece piece = window.document().whole();
    Take slow;
    slow.name = "slowly";
    slow.length_s = 120.0;
    const double last_s = piece.notes.back().onset_s() + 1.0;
    for (const Note& note : piece.notes)
        slow.notes.push_back(
            {{2.0 * note.onset_s(), 2.0 * note.onset_s() + 0.3}, note.midi(), 0.97, {}});
    slow.notes[3].midi += 1;
    slow.demonstrations = {{{0.0, 2.0 * last_s},
                            DemonstrationKind::Piece,
                            {{0.0, 0.0}, {last_s, 2.0 * last_s}},
                            0,
                            0.9,
                            {}}};
    Take lead;
    lead.name = "lead";
    lead.length_s = 60.0;
    piece.takes = {lead, slow};
    ASSERT_TRUE(writeAny(piece, scratch / "two.wirenote").ok());
    window.openPath(QString::fromStdString((scratch / "two.wirenote").string()));
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return window.document().isOpen() && window.document().whole().takes.size() == 2; },
        kPatience_ms));
    settleLesson();
    showPage("What is said");
    ASSERT_EQ(rows("claimRows")->topLevelItemCount(), 1);
    EXPECT_TRUE(rows("claimRows")->topLevelItem(0)->text(3).startsWith("played note"));
    EXPECT_EQ(rows("claimRows")->topLevelItem(0)->text(4), "slowly");
    emit rows("claimRows")->itemActivated(rows("claimRows")->topLevelItem(0), 0);
    EXPECT_EQ(window.selection().note(), piece.notes[3].id);
    EXPECT_NEAR(window.transport().playhead_s(), piece.notes[3].onset_s(), 0.05);
}

TEST_F(LessonBench, PupilsAreCountedOverPieces) {
    window.lesson().observe(StumbleKind::TemptingGrab, "three of them", 3);
    Piece other = window.document().whole();
    other.lesson.observations = {{1.0, StumbleKind::TemptingGrab, 4, ""},
                                 {2.0, StumbleKind::FastShift, 2, ""}};
    ASSERT_TRUE(writeAny(other, scratch / "other.wirenote").ok());
    window.lesson().countPupils({QString::fromStdString((scratch / "other.wirenote").string())});
    settleLesson();
    showPage("Where people stumble");
    ASSERT_GE(rows("stumbleRows")->topLevelItemCount(), 2);
    EXPECT_EQ(rows("stumbleRows")->topLevelItem(0)->text(0), "over 2 pieces");
    EXPECT_EQ(rows("stumbleRows")->topLevelItem(0)->text(1), "7");
    EXPECT_EQ(rows("stumbleRows")->topLevelItem(1)->text(1), "2");
}

TEST_F(LessonBench, ALessonSpeaksAsAnotherOneOfItsSeries) {
    Piece other = window.document().whole();
    other.lesson.manner.strings = StringNaming::Letter;
    other.lesson.manner.glossary = {{"down-stroke", "ebb"}};
    other.lesson.series = "Tides, part 1";
    other.lesson.level = "second year";
    ASSERT_TRUE(writeAny(other, scratch / "first.wirenote").ok());
    window.lesson().change("level", [](LessonPlan& one) { one.level = "first year"; });
    window.lesson().useMannerOf(QString::fromStdString((scratch / "first.wirenote").string()));
    EXPECT_EQ(plan().manner, other.lesson.manner);
    EXPECT_EQ(plan().series, "Tides, part 1");
    EXPECT_EQ(plan().level, "first year"); // what this one says itself stays
    window.document().undoStack().undo();
    EXPECT_EQ(plan().manner.strings, StringNaming::Number);
}

TEST_F(LessonBench, ThePromptKeepsUpWhenTheBenchIsHidden) {
    choose(StepKind::Fretting);
    push("promptLesson");
    auto* prompt = window.findChild<PromptView*>("promptView");
    ASSERT_NE(prompt, nullptr);
    window.showBench(BenchKind::Notes);
    settle();
    window.lesson().write("Listen to the heron.");
    EXPECT_TRUE(QTest::qWaitFor(
        [&] { return prompt->findChild<QLabel*>("promptText")->text() == "Listen to the heron."; },
        kPatience_ms));
    prompt->close();
}

// From the open piece to the pack without a mouse.
TEST_F(LessonBench, ThePackIsMadeByKeysAlone) {
    window.showBench(BenchKind::Notes);
    press(Qt::Key_F8);
    settleLesson();
    press(Qt::Key_J, Qt::ControlModifier);
    press(Qt::Key_J, Qt::ControlModifier);
    EXPECT_EQ(window.lessonBook().step(), 2U);
    press(Qt::Key_J, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(window.lessonBook().step(), 1U);
    const QString folder = QString::fromStdString((scratch / "by-keys").string());
    ASSERT_TRUE(QDir().mkpath(folder));
    QApplication::setAttribute(Qt::AA_DontUseNativeDialogs);
    QTimer::singleShot(200, [&folder] {
        auto* asks = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
        ASSERT_NE(asks, nullptr);
        auto* name = asks->findChild<QLineEdit*>();
        name->setText(folder);
        QTest::keyClick(name, Qt::Key_Return);
    });
    QString made;
    QObject::connect(
        &window.lesson(), &LessonCommands::packMade, [&](const QString& where) { made = where; });
    press(Qt::Key_E, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_TRUE(QTest::qWaitFor([&] { return !made.isEmpty(); }, kPatience_ms));
    EXPECT_TRUE(QFile::exists(folder + "/index.html"));
}

// A lesson that was changed is asked about before the window goes.
TEST_F(LessonBench, AChangedLessonIsNotLostByQuitting) {
    window.lesson().change("level", [](LessonPlan& one) { one.level = "second year"; });
    EXPECT_TRUE(window.document().modified());
    bool asked = false;
    QTimer::singleShot(0, [&asked] {
        auto* asks = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
        ASSERT_NE(asks, nullptr);
        asked = true;
        QTest::keyClick(asks, Qt::Key_Escape);
    });
    EXPECT_FALSE(window.close());
    EXPECT_TRUE(asked);
    EXPECT_EQ(plan().level, "second year");
    ASSERT_TRUE(window.document().save(window.document().file()).ok());
    EXPECT_FALSE(window.document().modified());
    EXPECT_EQ(readAny(scratch / "p.wirenote")->lesson.level, "second year");
}

TEST_F(LessonBench, ThePromptGoesOnAndMarksARetakeByOneKey) {
    push("promptLesson");
    auto* prompt = window.findChild<PromptView*>("promptView");
    ASSERT_NE(prompt, nullptr);
    const QString first = prompt->findChild<QLabel*>("promptTitle")->text();
    QTest::keyClick(prompt, Qt::Key_Space);
    settle();
    EXPECT_NE(prompt->findChild<QLabel*>("promptTitle")->text(), first);
    EXPECT_EQ(window.lessonBook().step(), 1U);
    QTest::keyClick(prompt, Qt::Key_R);
    settleLesson();
    ASSERT_EQ(plan().retakes.size(), 1U);
    EXPECT_TRUE(prompt->findChild<QLabel*>("promptTitle")->text().startsWith("FILM AGAIN"));
    QTest::keyClick(prompt, Qt::Key_R);
    settleLesson();
    EXPECT_TRUE(plan().retakes.empty());
    QTest::keyClick(prompt, Qt::Key_Left);
    EXPECT_EQ(window.lessonBook().step(), 0U);
    QTest::keyClick(prompt, Qt::Key_Escape);
    EXPECT_FALSE(prompt->isVisible());
}

TEST_F(LessonBench, ThePreviewHasTheTabsAndTheText) {
    push("previewLesson");
    auto* preview = window.findChild<LessonPreview*>("lessonPreview");
    ASSERT_NE(preview, nullptr);
    EXPECT_TRUE(preview->toPlainText().contains("Phrase A"));
    EXPECT_TRUE(preview->toHtml().contains("tab-0"));
    preview->close();
}

TEST_F(LessonBench, AStepIsPlayedInALoopAtItsTempo) {
    choose(StepKind::Slow);
    push("playStep");
    ASSERT_TRUE(window.transport().loop().has_value());
    EXPECT_NEAR(window.transport().loop()->end_s, state()->breakdown.phrases[0].span.end_s, 0.01);
    EXPECT_NEAR(window.transport().listen().speed, 0.6, 0.001);
    window.transport().pause();
}

TEST_F(LessonBench, AnObjectionIsKeptAtItsBarAndAnswered) {
    showPage("After publishing");
    window.transport().seek(2.1);
    window.findChild<QLineEdit*>("objection")->setText("that is a G");
    window.findChild<QLineEdit*>("objectionBy")->setText("R.");
    push("object");
    ASSERT_EQ(plan().objections.size(), 1U);
    EXPECT_EQ(rows("publishedRows")->topLevelItem(0)->text(0), "bar 2");
    rows("publishedRows")->setCurrentItem(rows("publishedRows")->topLevelItem(0));
    window.findChild<QLineEdit*>("objection")->setText("the take has it so");
    push("answerObjection");
    EXPECT_EQ(plan().objections[0].verdict, Verdict::Answered);
    EXPECT_EQ(plan().objections[0].answer, "the take has it so");
    window.findChild<QLineEdit*>("objection")->setText("first version");
    push("noteVersion");
    EXPECT_EQ(plan().versions.size(), 1U);
    window.document().undo();
    EXPECT_TRUE(plan().versions.empty());
}

TEST_F(LessonBench, ThePackIsMadeAndSaysWhatIsOldLater) {
    const QString folder = QString::fromStdString((scratch / "pack").string());
    window.lesson().change("one tempo", [](LessonPlan& p) { p.manner.tempi = {1.0}; });
    settleLesson();
    bool made = false;
    QObject::connect(&window.lesson(), &LessonCommands::packMade, &window, [&] { made = true; });
    window.lesson().makePack(folder);
    ASSERT_TRUE(QTest::qWaitFor([&] { return made; }, kPatience_ms));
    EXPECT_TRUE(std::filesystem::exists(scratch / "pack/index.html"));
    EXPECT_TRUE(std::filesystem::exists(scratch / "pack/sheet.pdf"));
    QStringList old = {"unasked"};
    QObject::connect(&window.lesson(),
                     &LessonCommands::outOfDate,
                     &window,
                     [&](const QStringList& files) { old = files; });
    window.lesson().askOutOfDate(folder);
    EXPECT_TRUE(QTest::qWaitFor([&] { return old.isEmpty(); }, kPatience_ms));
    choose(StepKind::Fretting);
    window.lesson().write("Other words.");
    settleLesson();
    window.lesson().askOutOfDate(folder);
    EXPECT_TRUE(QTest::qWaitFor([&] { return old.contains("index.html"); }, kPatience_ms));
    showPage("After publishing");
    EXPECT_GE(rows("publishedRows")->topLevelItemCount(), 1);
}

// The lesson costs nothing while nobody looks at it.
TEST_F(LessonBench, OnAnotherBenchItIsNotWorkedOut) {
    window.showBench(BenchKind::Notes);
    settle();
    const auto before = state();
    window.lesson().write("x");
    window.lesson().rename("y");
    settle();
    QTest::qWait(200);
    EXPECT_EQ(state(), before);
    window.showBench(BenchKind::Lesson);
    settleLesson();
    EXPECT_NE(state(), before);
}

} // namespace
} // namespace wirenote::app
