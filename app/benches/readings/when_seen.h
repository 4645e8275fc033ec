#pragma once

#include <QEvent>
#include <QTimer>
#include <QWidget>
#include <functional>
#include <utility>

namespace wirenote::app {

// Brings a view up to date once for several wishes in a row, and only while it is seen: an edit
// pays nothing for lists that nobody looks at.
class WhenSeen : public QObject {
  public:
    WhenSeen(QWidget& view, std::function<void()> refresh)
        : QObject(&view), m_view(view), m_refresh(std::move(refresh)) {
        m_soon.setSingleShot(true);
        m_soon.setInterval(0);
        connect(&m_soon, &QTimer::timeout, this, [this] {
            if (m_view.isVisible() && std::exchange(m_stale, false))
                m_refresh();
        });
        view.installEventFilter(this);
    }
    void wish() {
        m_stale = true;
        m_soon.start();
    }

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override {
        if (event->type() == QEvent::Show)
            m_soon.start();
        return QObject::eventFilter(watched, event);
    }

  private:
    QWidget& m_view;
    std::function<void()> m_refresh;
    QTimer m_soon;
    bool m_stale = false;
};

} // namespace wirenote::app
