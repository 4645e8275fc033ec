// Nothing is lost: journals, two windows on one piece, the end of the program.
#include "app/bench_fixture.h"

#include "base/atomic_file.h"
#include "session/journal_file.h"

#include <QDialog>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>

namespace wirenote::app {
namespace {

class Kept : public BenchTest {
  protected:
    Kept() : BenchTest(BenchKind::Neck) {}
    static std::filesystem::path demoTake() { return demo().take; }
    void openFile(const std::filesystem::path& path) {
        bool opened = false;
        QObject::connect(&window.document(), &Document::opened, &window, [&] { opened = true; });
        window.openPath(QString::fromStdString(path.string()));
        ASSERT_TRUE(QTest::qWaitFor([&] { return opened; }, kPatience_ms));
    }
    void openSaved() {
        std::filesystem::copy_file(
            demo().piece, file(), std::filesystem::copy_options::overwrite_existing);
        openFile(file());
    }
    std::filesystem::path file() const { return scratch / "p.wirenote"; }
    void editSome(int edits) {
        for (int k = 0; k < edits; ++k)
            ASSERT_TRUE(window.document().edit("accent", 0.0, [&](PieceEditor& e) {
                return e.toggleTechnique(piece().notes[static_cast<std::size_t>(k)].id,
                                         Technique::Accent);
            }));
        window.keepNow();
    }
    // The journals as another start would find them, were this program dead.
    std::filesystem::path asIfDead() {
        const auto folder = scratch / "dead" / "kept";
        std::filesystem::create_directories(folder);
        for (const auto& entry : std::filesystem::directory_iterator(scratch / "state" / "kept"))
            std::filesystem::copy_file(entry.path(), folder / entry.path().filename());
        return scratch / "dead";
    }
};

TEST_F(Kept, TheNextStartOffersWhatWasNotSavedAndOpensItAsItWas) {
    openSaved();
    editSome(5);
    const Piece then = piece();
    MainWindow next(settings, nullptr, asIfDead());
    next.show();
    next.restoreLast();
    auto* dialog = next.findChild<QDialog*>("keptWork");
    ASSERT_NE(dialog, nullptr);
    auto* list = dialog->findChild<QListWidget*>("keptList");
    ASSERT_EQ(list->count(), 1);
    EXPECT_TRUE(list->item(0)->text().contains("p.wirenote"))
        << list->item(0)->text().toStdString();
    EXPECT_TRUE(list->item(0)->text().contains("5 changes"));
    dialog->activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowActive(dialog));
    QTest::keyClick(list, Qt::Key_Return);
    ASSERT_TRUE(next.document().isOpen())
        << next.findChild<QLabel*>("bannerText")->text().toStdString();
    EXPECT_EQ(next.document().piece().notes, then.notes);
    EXPECT_EQ(next.document().piece().asPlayed().plans, then.asPlayed().plans);
    EXPECT_TRUE(next.document().modified()) << "the file does not hold it yet";
    EXPECT_EQ(next.document().file().toStdString(), file().string());
    next.keepNow();
    EXPECT_EQ(std::distance(std::filesystem::directory_iterator(scratch / "dead" / "kept"), {}), 1)
        << "the old journal went when the new one was safe";
}

TEST_F(Kept, WhatIsSavedOrThrownAwayIsNotOffered) {
    openSaved();
    editSome(2);
    ASSERT_TRUE(window.exporting().save());
    window.keepNow();
    EXPECT_TRUE(recoverableIn(asIfDead() / "kept").empty());
    editSome(1);
    MainWindow next(settings, nullptr, [&] {
        std::filesystem::remove_all(scratch / "dead");
        return asIfDead();
    }());
    ASSERT_TRUE(next.keptWork().offer());
    auto* dialog = next.findChild<QDialog*>("keptWork");
    for (QPushButton* button : dialog->findChildren<QPushButton*>())
        if (button->text() == "Throw it away")
            button->click();
    EXPECT_TRUE(std::filesystem::is_empty(scratch / "dead" / "kept"));
    EXPECT_FALSE(next.keptWork().offer());
}

TEST_F(Kept, AFreshTranscriptionIsKeptBeforeAnySave) {
    openFile(demoTake());
    ASSERT_TRUE(QTest::qWaitFor([&] { return !piece().notes.empty(); }, kPatience_ms));
    window.keepNow();
    const auto kept = recoverableIn(asIfDead() / "kept");
    ASSERT_EQ(kept.size(), 1U);
    EXPECT_EQ(recoverFrom(kept[0].journal)->piece.notes.size(), piece().notes.size());
}

TEST_F(Kept, UndoIsKeptToo) {
    openSaved();
    const auto before = piece().notes;
    editSome(1);
    window.document().undoStack().undo();
    window.keepNow();
    const auto kept = recoverableIn(asIfDead() / "kept");
    ASSERT_EQ(kept.size(), 1U);
    EXPECT_EQ(recoverFrom(kept[0].journal)->piece.notes, before);
}

TEST_F(Kept, TheEndOfTheSystemAsksNothingAndKeepsEverything) {
    openSaved();
    editSome(3);
    window.leaveKeeping();
    EXPECT_FALSE(window.isVisible());
    EXPECT_EQ(recoverableIn(asIfDead() / "kept").size(), 1U);
}

TEST_F(Kept, AChangeByAnotherProgramIsNotOverwrittenUnasked) {
    openSaved();
    editSome(1);
    const std::string theirs = *readWholeFile(file(), 100000000) + "\n";
    ASSERT_TRUE(writeFileAtomically(file(), theirs).ok());
    QString asked;
    auto answer = Exporting::Conflict::Leave;
    window.exporting().setConflictAnswer([&](const QString& what) {
        asked = what;
        return answer;
    });
    EXPECT_FALSE(window.exporting().save());
    EXPECT_TRUE(asked.contains("changed by another program")) << asked.toStdString();
    EXPECT_EQ(*readWholeFile(file(), 100000000), theirs);
    EXPECT_TRUE(window.document().modified());
    answer = Exporting::Conflict::Overwrite;
    EXPECT_TRUE(window.exporting().save());
    EXPECT_NE(*readWholeFile(file(), 100000000), theirs);
    asked.clear();
    editSome(1);
    EXPECT_TRUE(window.exporting().save());
    EXPECT_TRUE(asked.isEmpty()) << "our own save is no change by others";
}

TEST_F(Kept, TwoWindowsOnOnePieceDoNotOverwriteEachOther) {
    openSaved();
    MainWindow other(settings, nullptr, scratch / "state");
    bool opened = false;
    QObject::connect(&other.document(), &Document::opened, &other, [&] { opened = true; });
    other.openPath(QString::fromStdString(file().string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return opened; }, kPatience_ms));
    EXPECT_TRUE(other.document().heldElsewhere());
    bool asked = false;
    other.exporting().setConflictAnswer([&](const QString&) {
        asked = true;
        return Exporting::Conflict::Leave;
    });
    EXPECT_FALSE(other.exporting().save());
    EXPECT_TRUE(asked);
    EXPECT_TRUE(window.exporting().save()) << "the first one has it";
}

TEST_F(Kept, ARecordingOfThePieceIsNotWrittenOver) {
    openFile(demoTake());
    ASSERT_TRUE(QTest::qWaitFor([&] { return !piece().notes.empty(); }, kPatience_ms));
    const auto link = scratch / "link.mid";
    std::filesystem::create_symlink(demoTake(), link);
    EXPECT_FALSE(window.exporting().exportTo(QString::fromStdString(link.string())));
    EXPECT_TRUE(std::filesystem::is_symlink(link));
}

// A title that no file can hold ended the program while it saved.
TEST_F(Kept, ATitleFromAnotherEncodingIsSaved) {
    const auto xml = scratch / "odd.musicxml";
    ASSERT_TRUE(writeFileAtomically(
                    xml,
                    "<score-partwise><work><work-title>Caf\xE9 \x01</work-title></work><part "
                    "id='P1'><measure number='1'><note><pitch><step>E</step><octave>4</octave>"
                    "</pitch><duration>1</duration></note></measure></part></score-partwise>")
                    .ok());
    openFile(xml);
    for (const char* name : {"odd.wirenote", "odd2.musicxml", "odd.json", "odd.jams"}) {
        const QString out = QString::fromStdString((scratch / name).string());
        EXPECT_TRUE(QString(name).endsWith("wirenote") ? window.exporting().saveTo(out)
                                                       : window.exporting().exportTo(out))
            << name;
    }
}

} // namespace
} // namespace wirenote::app
