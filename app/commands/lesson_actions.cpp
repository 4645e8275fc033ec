// The actions of the lesson.
#include "app/commands/actions.h"

#include "app/commands/lesson_commands.h"

#include <QMenu>

namespace wirenote::app {

void Actions::fillLesson(QMenu& menu) {
    LessonCommands& l = m_lesson;
    menu.addAction(
        only(make(tr("Next step"), QKeySequence(Qt::CTRL | Qt::Key_J), [&l] { l.nextStep(); }),
             {BenchKind::Lesson}));
    menu.addAction(only(make(tr("Previous step"),
                             QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_J),
                             [&l] { l.previousStep(); }),
                        {BenchKind::Lesson}));
    menu.addAction(make(tr("Play this step in a loop"), QKeySequence(Qt::SHIFT | Qt::Key_P), [&l] {
        l.playStep();
    }));
    menu.addSeparator();
    menu.addAction(only(make(tr("Cut the phrase at the playhead"),
                             QKeySequence(Qt::CTRL | Qt::Key_K),
                             [&l] { l.cutHere(); }),
                        {BenchKind::Lesson}));
    menu.addAction(only(make(tr("Join the phrase to the next"),
                             QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_K),
                             [&l] { l.joinToNext(); }),
                        {BenchKind::Lesson}));
    menu.addAction(make(tr("Phrases as they are found"), {}, [&l] { l.cutAsFound(); }));
    menu.addAction(
        make(tr("Leave the chosen phrase out, or teach it"), {}, [&l] { l.leaveOut(); }));
    menu.addAction(make(tr("The chosen phrase is free, or not"), {}, [&l] { l.makeFree(); }));
    menu.addAction(make(tr("Teach only the loop"), {}, [&l] { l.teachLoop(); }));
    menu.addSeparator();
    menu.addAction(make(tr("Write the step as it is made"), {}, [&l] { l.writeAsMade(); }));
    menu.addAction(make(tr("Film this step again, or not"), {}, [&l] { l.markRetake(); }));
    menu.addSeparator();
    menu.addAction(make(tr("See it as a learner will"),
                        QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_V),
                        [this] { emit previewWanted(); }));
    menu.addAction(make(tr("Prompt for filming"),
                        QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_P),
                        [this] { emit promptWanted(); }));
    menu.addAction(make(tr("Make the lesson pack…"),
                        QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_E),
                        [this] { emit packWanted(); }));
}

} // namespace wirenote::app
