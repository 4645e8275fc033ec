// The actions of readings, and of what is said of notes without changing them.
#include "app/commands/actions.h"

#include "app/commands/reading_commands.h"
#include "app/text/reading_wording.h"

#include <QMenu>
#include <cmath>

namespace wirenote::app {

// What is said of it without changing it.
void Actions::fillSayings(QMenu& menu) {
    ReadingCommands& r = m_readings;
    QMenu& why = *menu.addMenu(tr("Why it is set"));
    for (const auto& [reason, key] : {std::pair{SetWhy::Misheard, Qt::Key_1},
                                      {SetWhy::Score, Qt::Key_2},
                                      {SetWhy::Memory, Qt::Key_3},
                                      {SetWhy::Taste, Qt::Key_4},
                                      {SetWhy::Asked, Qt::Key_5}})
        why.addAction(make(setWhyText(reason),
                           QKeySequence(Qt::CTRL | Qt::ALT | key),
                           [&r, reason = reason] { r.sayWhy(reason); }));
    why.addSeparator();
    why.addAction(make(tr("nobody says why"), {}, [&r] { r.sayWhy(SetWhy::Unsaid); }));
    menu.addAction(ticked(
        make(tr("May be left out"),
             QKeySequence(Qt::SHIFT | Qt::Key_O),
             [&r] {
                 r.setNeed({Necessity::MayGo, 0.0, {}});
             }),
        [](const Note& note, const NotePlan&) { return note.need.kind == Necessity::MayGo; }));
    menu.addAction(make(tr("May be left out faster than this tempo"), {}, [this, &r] {
        r.setNeed({Necessity::MayGo, std::round(m_document.piece().timeline.tempo_bpm), {}});
    }));
    menu.addAction(
        make(tr("May be left out, as often as counted"), {}, [&r] { r.needAsCounted(); }));
    menu.addAction(ticked(
        make(tr("Must land"),
             QKeySequence(Qt::SHIFT | Qt::Key_M),
             [&r] {
                 r.setNeed({Necessity::MustLand, 0.0, {}});
             }),
        [](const Note& note, const NotePlan&) { return note.need.kind == Necessity::MustLand; }));
    QMenu& open = *menu.addMenu(tr("Leave the doubt open"));
    open.addAction(make(tr("It does not matter"), QKeySequence(Qt::SHIFT | Qt::Key_Return), [&r] {
        r.leaveOpen(tr("does not matter"));
    }));
    open.addAction(make(tr("Check the record"),
                        QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Return),
                        [&r] { r.leaveOpen(tr("check the record")); }));
    open.addAction(make(tr("Ask me again"), {}, [&r] { r.askAgain(); }));
    menu.addAction(make(tr("Who decided what of it"), QKeySequence(Qt::CTRL | Qt::Key_H), [this] {
        emit historyWanted();
    }));
}

void Actions::fillReadings(QMenu& menu) {
    ReadingCommands& r = m_readings;
    menu.addAction(make(
        tr("Show the next reading"), QKeySequence(Qt::CTRL | Qt::Key_R), [&r] { r.showNext(); }));
    menu.addAction(make(tr("Show what was played"), {}, [this] { m_document.showReading(0); }));
    menu.addSeparator();
    for (const auto& [name, kind] : {std::pair{tr("Make an easier one"), "easier:1"},
                                     {tr("Make one with chords of three notes"), "easier:2"},
                                     {tr("Make one of tune and bass"), "easier:3"},
                                     {tr("Make one in one position"), "one-position"},
                                     {tr("Make one without barres"), "no-barre"},
                                     {tr("Make one without open strings"), "no-open"},
                                     {tr("Make one with every note struck"), "no-slurs"}})
        menu.addAction(make(name, {}, [&r, kind = kind] { r.make(kind); }));
    menu.addSeparator();
    menu.addAction(make(tr("Remove the reading that is shown"), {}, [&r] { r.remove(); }));
}

} // namespace wirenote::app
