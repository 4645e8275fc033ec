#pragma once

#include "app/document/lesson_book.h"

#include <QEvent>
#include <QPointer>
#include <QWidget>

namespace wirenote::app {

// Has the lesson worked out as long as a view of it is shown. Belongs to the view.
class WantedWhileShown : public QObject {
  public:
    WantedWhileShown(QWidget& view, LessonBook& book) : QObject(&view), m_book(&book) {
        view.installEventFilter(this);
    }
    ~WantedWhileShown() override { want(false); }

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override {
        if (event->type() == QEvent::Show)
            want(true);
        if (event->type() == QEvent::Hide)
            want(false);
        return QObject::eventFilter(watched, event);
    }

  private:
    void want(bool wanted) {
        if (m_book)
            m_book->setWanted(this, wanted);
    }

    QPointer<LessonBook> m_book; // a window that ends may take it first
};

} // namespace wirenote::app
