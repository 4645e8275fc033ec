// The Sheet bench: what stands on it, what is chosen on it, and every key of notes on it.
#include "app/bench_fixture.h"

#include "app/benches/sheet/sheet_places.h"
#include "app/benches/sheet/sheet_view.h"
#include "session/files.h"
#include "session/sheet.h"
#include "support/long_piece.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFile>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QTimer>
#include <QToolButton>

namespace wirenote::app {
namespace {

class SheetBench : public BenchTest {
  protected:
    SheetBench() : BenchTest(BenchKind::Sheet) {
        EXPECT_TRUE(writeAny(test::longPiece(60), scratch / "p.wirenote").ok());
        window.openPath(QString::fromStdString((scratch / "p.wirenote").string()));
        EXPECT_TRUE(QTest::qWaitFor([&] { return window.document().isOpen(); }, kPatience_ms));
        settle();
    }
    SheetView* sheet() { return window.findChild<SheetView*>("sheet"); }
    QWidget* paper() { return sheet()->widget(); }
    // Where the number of a note stands on the paper, in pixels.
    QPoint placeOf(NoteId id) {
        const auto pages = pagesOf(piece());
        const auto spots = spotsOf(pages, {id});
        if (spots.empty())
            return {};
        const double scale = paper()->width() / pages.front().width;
        const Box& box = spots.front().box;
        return QPointF((box.left + box.right) / 2.0 * scale, (box.top + box.bottom) / 2.0 * scale)
            .toPoint();
    }
    void click(NoteId id, Qt::KeyboardModifiers modifiers = Qt::NoModifier) {
        QTest::mouseClick(paper(), Qt::LeftButton, modifiers, placeOf(id));
    }
    void key(Qt::Key key, Qt::KeyboardModifiers modifiers = Qt::NoModifier) {
        QTest::keyClick(sheet(), key, modifiers);
        settle();
    }
    NoteId id(std::size_t note) { return piece().notes[note].id; }
    // By its key, and into the dialog that asks for it.
    void typeMark(const QString& text) {
        window.activateWindow(); // the last dialog took that away
        ASSERT_TRUE(QTest::qWaitForWindowActive(&window));
        bool asked = false;
        QTimer::singleShot(0, [&] {
            auto* dialog = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
            if (!dialog)
                return;
            asked = true;
            dialog->setTextValue(text);
            dialog->accept();
        });
        key(Qt::Key_M, Qt::ControlModifier);
        EXPECT_TRUE(asked);
    }
    QCheckBox* tick(const char* name) {
        for (QCheckBox* box : window.findChildren<QCheckBox*>())
            if (box->text() == name)
                return box;
        return nullptr;
    }
};

TEST_F(SheetBench, StylesHaveNamesAndAreKept) {
    auto* styles = named<QComboBox>("sheetStyles");
    auto* more = named<QToolButton>("moreOfStyles");
    ASSERT_NE(styles, nullptr);
    ASSERT_NE(more, nullptr);
    EXPECT_EQ(styles->currentText(), "hand-out");
    const auto choose = [&](const QString& name) {
        styles->setCurrentIndex(styles->findText(name));
        emit styles->activated(styles->currentIndex());
        settle();
    };
    choose("for the stand");
    EXPECT_EQ(piece().sheet.size, SheetSize::Stand);
    EXPECT_FALSE(piece().sheet.fingers);
    undo();
    EXPECT_EQ(piece().sheet, SheetStyle{});
    EXPECT_EQ(styles->currentText(), "hand-out");
    tick("Count")->click();
    EXPECT_EQ(styles->currentText(), "as chosen below");
    const SheetStyle mine = piece().sheet;
    QTimer::singleShot(0, [] {
        auto* asks = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
        ASSERT_NE(asks, nullptr);
        asks->setTextValue("Tuesdays");
        asks->accept();
    });
    more->menu()->findChild<QAction*>("keepStyle")->trigger();
    EXPECT_EQ(styles->currentText(), "Tuesdays");
    choose("for readers of notation");
    EXPECT_EQ(piece().sheet.staves, SheetStaves::TabAndStaff);
    choose("Tuesdays");
    EXPECT_EQ(piece().sheet, mine);
    more->menu()->findChild<QAction*>("forgetStyle")->trigger();
    EXPECT_LT(styles->findText("Tuesdays"), 0);
    EXPECT_EQ(piece().sheet, mine) << "the sheet stays as it is";
}

TEST_F(SheetBench, AClickChoosesANoteAndShiftAStretch) {
    click(id(3));
    EXPECT_EQ(window.selection().note(), id(3));
    click(id(6), Qt::ShiftModifier);
    EXPECT_EQ(window.selection().all().size(), 4U);
    click(id(9), Qt::ControlModifier);
    EXPECT_EQ(window.selection().all().size(), 5U);
}

TEST_F(SheetBench, WhatIsDoneToANoteElsewhereIsDoneHere) {
    click(id(2));
    const int fret = piece().plan(id(2))->position.value.fret;
    key(Qt::Key_Up);
    EXPECT_EQ(piece().plan(id(2))->position.value.fret, fret + 1);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(piece().plan(id(2))->position.value.fret, fret);
    key(Qt::Key_Right);
    EXPECT_EQ(window.selection().note(), id(3));
    key(Qt::Key_2, Qt::AltModifier);
    EXPECT_EQ(piece().plan(id(3))->finger.value, Finger::Middle);
    EXPECT_TRUE(piece().plan(id(3))->finger.isSet());
}

TEST_F(SheetBench, KeysGoByBarBeatAndString) {
    click(id(0));
    key(Qt::Key_PageDown, Qt::ControlModifier);
    const TimelineMap map(piece().timeline);
    const auto chosen = [&] {
        return map.barBeatAt(piece().note(window.selection().note())->onset_s() + 0.03);
    };
    EXPECT_EQ(chosen().bar, map.barBeatAt(piece().notes[0].onset_s() + 0.03).bar + 1);
    const double beat = chosen().beat;
    key(Qt::Key_PageDown, Qt::AltModifier);
    EXPECT_GE(chosen().beat, beat + 0.9);
    key(Qt::Key_PageUp, Qt::ControlModifier);
    EXPECT_EQ(chosen().bar, 1);
    // A strike of two strings: from the thin one to the thick one and back.
    for (std::size_t i = 1; i < piece().notes.size(); ++i)
        if (piece().notes[i].onset_s() == piece().notes[i - 1].onset_s()) {
            window.selection().choose(id(i));
            const auto string = [&] {
                return piece().plan(window.selection().note())->position.value.string;
            };
            key(Qt::Key_Up, Qt::AltModifier);
            const int thin = string();
            key(Qt::Key_Down, Qt::AltModifier);
            EXPECT_GT(string(), thin);
            break;
        }
}

TEST_F(SheetBench, WhatStandsOnItIsKeptAndUndone) {
    EXPECT_EQ(piece().sheet.staves, SheetStaves::Tab);
    key(Qt::Key_T, Qt::ShiftModifier);
    EXPECT_EQ(piece().sheet.staves, SheetStaves::TabAndStaff);
    ASSERT_NE(tick("Count"), nullptr);
    tick("Count")->click();
    EXPECT_TRUE(piece().sheet.count);
    EXPECT_TRUE(
        window.document().save(QString::fromStdString((scratch / "q.wirenote").string())).ok());
    const auto kept = readAny(scratch / "q.wirenote");
    ASSERT_TRUE(kept.ok());
    EXPECT_EQ(kept->sheet, piece().sheet);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_FALSE(piece().sheet.count);
    EXPECT_FALSE(tick("Count")->isChecked());
}

TEST_F(SheetBench, OneKeyWritesANoteInTheOtherVoice) {
    click(id(4));
    key(Qt::Key_V, Qt::ShiftModifier);
    ASSERT_TRUE(piece().note(id(4))->voice.has_value());
    EXPECT_EQ(*piece().note(id(4))->voice, Voice::Lower);
    key(Qt::Key_V, Qt::ShiftModifier);
    EXPECT_EQ(*piece().note(id(4))->voice, Voice::Upper);
    key(Qt::Key_Z, Qt::ControlModifier);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_FALSE(piece().note(id(4))->voice.has_value());
}

// A file's name is no title until somebody says so.
TEST_F(SheetBench, ATitleFromAFilesNameIsPrintedOnceItIsKept) {
    const auto midi = scratch / "take-07-final.mid";
    ASSERT_TRUE(writeAny(test::longPiece(12), midi).ok());
    window.openPath(QString::fromStdString(midi.string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return piece().title == "take-07-final"; }, kPatience_ms));
    settle();
    const auto printed = [&] {
        const auto pages = pagesOf(piece());
        for (const Ink& ink : pages.front().ink)
            if (ink.sign == Sign::Head1)
                return true;
        return false;
    };
    EXPECT_TRUE(piece().title_guessed);
    EXPECT_FALSE(printed());
    QLineEdit* title = nullptr;
    for (QLineEdit* field : window.findChildren<QLineEdit*>())
        if (field->accessibleName() == "Title")
            title = field;
    ASSERT_NE(title, nullptr);
    title->setFocus();
    QTest::keyClick(title, Qt::Key_Return);
    EXPECT_FALSE(piece().title_guessed);
    EXPECT_TRUE(printed());
}

// Harmony that does not sound in the part is typed, and stands over the bars.
TEST_F(SheetBench, AChartNamesTheBarsFromTheChosenOneOn) {
    click(id(0));
    auto* chart = named<QLineEdit>("Chords from the chosen bar on");
    ASSERT_NE(chart, nullptr);
    chart->setFocus();
    chart->setText("Fmaj7 | hello");
    QTest::keyClick(chart, Qt::Key_Return);
    EXPECT_TRUE(piece().chord_names.empty()) << "all or nothing";
    EXPECT_EQ(chart->text(), "Fmaj7 | hello") << "to be mended";
    chart->setText("Fmaj7 | Dm9 G13");
    QTest::keyClick(chart, Qt::Key_Return);
    ASSERT_EQ(piece().chord_names.size(), 3U);
    std::string words;
    for (const SheetPage& page : pagesOf(piece()))
        for (const Ink& ink : page.ink)
            if (const auto* text = std::get_if<TextInk>(&ink.what); text && ink.sign == Sign::Chord)
                words += text->text + " ";
    for (const char* name : {"Fmaj7", "Dm9", "G13"})
        EXPECT_NE(words.find(name), std::string::npos) << name << " in " << words;
    undo();
    EXPECT_TRUE(piece().chord_names.empty());
}

TEST_F(SheetBench, DynamicsAndWordsAreWrittenByKey) {
    click(id(2));
    typeMark("mf");
    ASSERT_EQ(piece().marks.size(), 1U);
    EXPECT_EQ(piece().marks[0].text, "mf");
    EXPECT_DOUBLE_EQ(piece().marks[0].at_s, piece().notes[2].onset_s());
    typeMark("<");
    EXPECT_EQ(piece().marks.size(), 1U) << "one note is no stretch";
    window.selection().extendTo(id(8)); // what was said lies over the paper
    typeMark("<");
    ASSERT_EQ(piece().marks.size(), 2U);
    EXPECT_DOUBLE_EQ(piece().marks[1].to_s, piece().notes[8].onset_s());
    int hairpins = 0;
    int letters = 0;
    for (const SheetPage& page : pagesOf(piece()))
        for (const Ink& ink : page.ink) {
            hairpins += ink.sign == Sign::Hairpin ? 1 : 0;
            letters += ink.sign == Sign::Dynamic ? 1 : 0;
        }
    EXPECT_GE(hairpins, 2);
    EXPECT_EQ(letters, 2);
    undo();
    EXPECT_EQ(piece().marks.size(), 1U);
    settle();
    window.selection().choose(id(2));
    window.activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowActive(&window));
    key(Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_TRUE(piece().marks.empty());
    undo();
    EXPECT_EQ(piece().marks.size(), 1U);
}

TEST_F(SheetBench, AMarkIsNotAskedForWithoutANote) {
    window.selection().choose(0);
    key(Qt::Key_M, Qt::ControlModifier);
    EXPECT_TRUE(piece().marks.empty());
    EXPECT_EQ(QApplication::activeModalWidget(), nullptr);
    bool said = false;
    for (const QLabel* label : window.findChildren<QLabel*>())
        said = said || (label->isVisible() && label->text().contains("hoose the note at which"));
    EXPECT_TRUE(said) << "it is said what is missing";
}

// Four ways to write what comes again; the last one with cells.
TEST_F(SheetBench, ShiftEGoesThroughAllWaysOfRepeats) {
    for (const SheetRepeats wanted : {SheetRepeats::Signs,
                                      SheetRepeats::ByNumber,
                                      SheetRepeats::Cells,
                                      SheetRepeats::WrittenOut}) {
        key(Qt::Key_E, Qt::ShiftModifier);
        EXPECT_EQ(piece().sheet.repeats, wanted);
        EXPECT_FALSE(pagesOf(piece()).empty());
    }
}

TEST_F(SheetBench, AnExportSaysWhatItCannotHold) {
    const QString path = QString::fromStdString((scratch / "x.mid").string());
    ASSERT_TRUE(window.exporting().exportTo(path));
    bool said = false;
    for (const QLabel* label : window.findChildren<QLabel*>())
        said = said || label->text().contains("It cannot hold");
    EXPECT_TRUE(said);
    ASSERT_TRUE(window.exporting().exportTo(QString::fromStdString((scratch / "x.pdf").string())));
    QFile pdf(QString::fromStdString((scratch / "x.pdf").string()));
    ASSERT_TRUE(pdf.open(QIODevice::ReadOnly));
    EXPECT_TRUE(pdf.read(5) == "%PDF-");
}

} // namespace
} // namespace wirenote::app
