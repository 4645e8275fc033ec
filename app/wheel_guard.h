#pragma once

#include <QAbstractScrollArea>
#include <QAbstractSlider>
#include <QAbstractSpinBox>
#include <QComboBox>
#include <QCoreApplication>
#include <QEvent>
#include <QScrollBar>

namespace wirenote::app {

// Who scrolls a card must not turn the fields under the pointer: the wheel goes to a field only
// when it has the keyboard. For the whole application.
class WheelGuard : public QObject {
  public:
    using QObject::QObject;

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override {
        if (event->type() != QEvent::Wheel && event->type() != QEvent::Polish)
            return false;
        auto* field = fieldOf(watched);
        if (!field)
            return false;
        if (event->type() == QEvent::Polish) { // nor does the wheel give it the keyboard
            if (field->focusPolicy() == Qt::WheelFocus)
                field->setFocusPolicy(Qt::StrongFocus);
            return false;
        }
        if (field->hasFocus())
            return false;
        for (QWidget* parent = field->parentWidget(); parent; parent = parent->parentWidget())
            if (auto* area = qobject_cast<QAbstractScrollArea*>(parent)) {
                QCoreApplication::sendEvent(area->verticalScrollBar(), event);
                break;
            }
        return true;
    }

  private:
    static QWidget* fieldOf(QObject* watched) {
        const bool field =
            !qobject_cast<QScrollBar*>(watched) &&
            (qobject_cast<QComboBox*>(watched) || qobject_cast<QAbstractSpinBox*>(watched) ||
             qobject_cast<QAbstractSlider*>(watched));
        return field ? qobject_cast<QWidget*>(watched) : nullptr;
    }
};

} // namespace wirenote::app
