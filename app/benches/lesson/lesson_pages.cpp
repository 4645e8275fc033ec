#include "app/benches/lesson/lesson_pages.h"

#include "app/benches/lesson/about_form.h"
#include "app/benches/lesson/lesson_lists.h"
#include "app/benches/lesson/steps_view.h"
#include "app/document/lesson_book.h"
#include "app/theme.h"

#include <QEvent>

namespace wirenote::app {
namespace {

// Tells the book whether somebody looks.
class Looking : public QObject {
  public:
    Looking(QWidget& view, LessonBook& book) : QObject(&view), m_book(book) {
        view.installEventFilter(this);
    }

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override {
        if (event->type() == QEvent::Show)
            m_book.setWanted(true);
        if (event->type() == QEvent::Hide)
            m_book.setWanted(false);
        return QObject::eventFilter(watched, event);
    }

  private:
    LessonBook& m_book;
};

} // namespace

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
    new Looking(*tabs, book);
    return tabs;
}

} // namespace wirenote::app
