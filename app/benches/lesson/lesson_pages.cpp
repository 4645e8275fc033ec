#include "app/benches/lesson/lesson_pages.h"

#include "app/benches/lesson/about_form.h"
#include "app/benches/lesson/lesson_lists.h"
#include "app/benches/lesson/steps_view.h"
#include "app/benches/lesson/wanted_while_shown.h"
#include "app/theme.h"

namespace wirenote::app {

QTabWidget* lessonPages(Document& document,
                        LessonBook& book,
                        LessonCommands& commands,
                        Selection& selection,
                        Transport& transport) {
    auto* tabs = new QTabWidget;
    tabs->setObjectName("lessonTabs");
    tabs->addTab(new StepsView(book, commands), QObject::tr("Steps"));
    tabs->addTab(new StumblesList(document, book, commands, selection, transport),
                 QObject::tr("Where people stumble"));
    tabs->addTab(new ClaimsList(book, commands, selection, transport), QObject::tr("What is said"));
    tabs->addTab(new AboutForm(document, commands), QObject::tr("About it, own words"));
    tabs->addTab(new PublishedList(document, commands, transport), QObject::tr("After publishing"));
    for (int page = 0; page < tabs->count(); ++page) { // they lie on paper
        QPalette palette = tabs->widget(page)->palette();
        palette.setColor(QPalette::Window, theme().paper);
        tabs->widget(page)->setPalette(palette);
        tabs->widget(page)->setAutoFillBackground(true);
        tabs->widget(page)->setContentsMargins(8, 6, 8, 4);
    }
    new WantedWhileShown(*tabs, book);
    return tabs;
}

} // namespace wirenote::app
