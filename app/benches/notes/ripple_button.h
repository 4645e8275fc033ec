#pragma once

#include <QEnterEvent>
#include <QFocusEvent>
#include <QPushButton>
#include <functional>

namespace wirenote::app {

// A button that shows what it would change before it is pressed: while the pointer or the focus is
// on it.
class RippleButton : public QPushButton {
  public:
    RippleButton(const QString& text, std::function<void(bool)> show)
        : QPushButton(text), m_show(std::move(show)) {}

  protected:
    void enterEvent(QEnterEvent* event) override {
        QPushButton::enterEvent(event);
        m_show(true);
    }
    void leaveEvent(QEvent* event) override {
        QPushButton::leaveEvent(event);
        m_show(hasFocus());
    }
    void focusInEvent(QFocusEvent* event) override {
        QPushButton::focusInEvent(event);
        m_show(true);
    }
    void focusOutEvent(QFocusEvent* event) override {
        QPushButton::focusOutEvent(event);
        m_show(underMouse());
    }

  private:
    std::function<void(bool)> m_show;
};

} // namespace wirenote::app
