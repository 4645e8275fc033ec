// The actions of the sheet.
#include "app/commands/actions.h"

#include "app/commands/sheet_commands.h"
#include "app/document/document.h"
#include "app/document/selection.h"

#include <QInputDialog>
#include <QMenu>

namespace wirenote::app {

// Over the sheet from place to place, and what stands on it.
void Actions::fillSheet(QMenu& menu) {
    SheetCommands& s = m_sheet;
    menu.addAction(
        make(tr("Next bar"), QKeySequence(Qt::CTRL | Qt::Key_PageDown), [&s] { s.stepBar(1); }));
    menu.addAction(
        make(tr("Bar before"), QKeySequence(Qt::CTRL | Qt::Key_PageUp), [&s] { s.stepBar(-1); }));
    menu.addAction(
        make(tr("Next beat"), QKeySequence(Qt::ALT | Qt::Key_PageDown), [&s] { s.stepBeat(1); }));
    menu.addAction(
        make(tr("Beat before"), QKeySequence(Qt::ALT | Qt::Key_PageUp), [&s] { s.stepBeat(-1); }));
    menu.addAction(make(tr("The next string of the chord"),
                        QKeySequence(Qt::ALT | Qt::Key_Down),
                        [&s] { s.stepString(1); }));
    menu.addAction(make(tr("The string before, of the chord"),
                        QKeySequence(Qt::ALT | Qt::Key_Up),
                        [&s] { s.stepString(-1); }));
    menu.addSeparator();
    menu.addAction(make(tr("Write in the other voice"), QKeySequence(Qt::SHIFT | Qt::Key_V), [&s] {
        s.otherVoice();
    }));
    menu.addAction(make(tr("Write in the voice as it is found"), {}, [&s] { s.voiceAsFound(); }));
    menu.addSeparator();
    menu.addAction(
        make(tr("Notation over the tab, or tab alone"), QKeySequence(Qt::SHIFT | Qt::Key_T), [&s] {
            s.change(tr("change the sheet"), [](SheetStyle& style) {
                style.staves =
                    style.staves == SheetStaves::Tab ? SheetStaves::TabAndStaff : SheetStaves::Tab;
            });
        }));
    menu.addAction(make(tr("Write at the chosen notes…"),
                        QKeySequence(Qt::CTRL | Qt::Key_M),
                        [this] { askForMark(); }));
    menu.addAction(make(tr("Take away what is written at the chosen notes"),
                        QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_M),
                        [&s] { s.clearMarks(); }));
    menu.addSeparator();
    menu.addAction(make(tr("Written out, with repeat signs, by bar number, or with cells"),
                        QKeySequence(Qt::SHIFT | Qt::Key_E),
                        [&s] {
                            s.change(tr("change the sheet"), [](SheetStyle& style) {
                                constexpr int kKinds = 4;
                                style.repeats = static_cast<SheetRepeats>(
                                    (static_cast<int>(style.repeats) + 1) % kKinds);
                            });
                        }));
}

void Actions::askForMark() {
    if (!m_document.piece().note(m_selection.note())) {
        m_sheet.typeMark({}); // says what is missing
        return;
    }
    const QStringList usual = {"p",
                               "mp",
                               "mf",
                               "f",
                               "pp",
                               "ff",
                               "sfz",
                               "<",
                               ">",
                               "fermata",
                               "segno",
                               "coda",
                               tr("D.C. al Fine"),
                               tr("Fine")};
    bool wanted = false;
    const QString text = QInputDialog::getItem(
        m_window,
        tr("Write at the chosen notes"),
        tr("A level of loudness, < louder or > softer up to the last chosen note,\n"
           "fermata, segno, coda, or any words:"),
        usual,
        0,
        true,
        &wanted);
    if (wanted)
        m_sheet.typeMark(text);
}

} // namespace wirenote::app
