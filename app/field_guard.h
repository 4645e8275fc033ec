#pragma once

#include <QObject>
#include <functional>

class QKeyEvent;
class QWidget;

namespace wirenote::app {

// Sees to it that fields keep what is theirs, for the whole application:
// - Who scrolls a card does not turn the fields under the pointer: the wheel goes to a field only
//   when it has the keyboard.
// - Keys that are typed in a field stay there; none of them is a command meanwhile. Escape leaves
//   the field as it was and gives the keyboard back.
// - A button that is clicked does not take the keyboard; one that was reached by Tab is pressed by
//   the space bar.
class FieldGuard : public QObject {
  public:
    // `give_back` puts the keyboard where the work is.
    FieldGuard(std::function<void()> give_back, QObject* parent)
        : QObject(parent), m_give_back(std::move(give_back)) {}

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    bool wheel(QWidget& field, QEvent& event);
    bool escape(QWidget& field);

    std::function<void()> m_give_back;
};

} // namespace wirenote::app
