#include "app/field_guard.h"

#include <QAbstractButton>
#include <QAbstractItemView>
#include <QAbstractScrollArea>
#include <QAbstractSlider>
#include <QAbstractSpinBox>
#include <QApplication>
#include <QComboBox>
#include <QCoreApplication>
#include <QKeyEvent>
#include <QLineEdit>
#include <QScrollBar>

namespace wirenote::app {
namespace {

constexpr const char* kBefore = "before"; // what stood in a field when it got the keyboard

bool isTyped(const QWidget* widget) { // something is typed or chosen in it
    return qobject_cast<const QLineEdit*>(widget) ||
           qobject_cast<const QAbstractSpinBox*>(widget) || qobject_cast<const QComboBox*>(widget);
}

bool isTurned(const QWidget* widget) {
    return qobject_cast<const QAbstractSlider*>(widget) && !qobject_cast<const QScrollBar*>(widget);
}

bool isList(const QWidget* widget) {
    return qobject_cast<const QAbstractItemView*>(widget);
}

QLineEdit* textOf(QWidget& field) {
    if (auto* line = qobject_cast<QLineEdit*>(&field))
        return line;
    return field.findChild<QLineEdit*>();
}

// Keys of the window that mean the same wherever one is: with Ctrl or Alt, and the function keys.
bool isOfTheWindow(const QKeyEvent& key) {
    const bool held = key.modifiers() & (Qt::ControlModifier | Qt::AltModifier | Qt::MetaModifier);
    const bool moves = key.key() == Qt::Key_Left || key.key() == Qt::Key_Right ||
                       key.key() == Qt::Key_Up || key.key() == Qt::Key_Down ||
                       key.key() == Qt::Key_Return || key.key() == Qt::Key_Enter;
    return (held && !moves) || (key.key() >= Qt::Key_F1 && key.key() <= Qt::Key_F35);
}

// Keys that move within what is turned, or within a list.
bool movesWithin(const QWidget& widget, int key) {
    static const QList<int> kBoth{Qt::Key_Up,
                                  Qt::Key_Down,
                                  Qt::Key_PageUp,
                                  Qt::Key_PageDown,
                                  Qt::Key_Home,
                                  Qt::Key_End,
                                  Qt::Key_Escape};
    if (isTurned(&widget))
        return kBoth.contains(key) || key == Qt::Key_Left || key == Qt::Key_Right;
    return isList(&widget) &&
           (kBoth.contains(key) || key == Qt::Key_Return || key == Qt::Key_Enter);
}

bool belongsTo(const QWidget& widget, const QKeyEvent& key) {
    if (isTyped(&widget))
        return !isOfTheWindow(key);
    if (key.modifiers() != Qt::NoModifier)
        return false;
    return movesWithin(widget, key.key()) ||
           (qobject_cast<const QAbstractButton*>(&widget) &&
            (key.key() == Qt::Key_Space || key.key() == Qt::Key_Escape));
}

} // namespace

bool FieldGuard::eventFilter(QObject* watched, QEvent* event) {
    auto* widget = qobject_cast<QWidget*>(watched);
    if (!widget)
        return false;
    switch (event->type()) {
    case QEvent::Polish:
        if (qobject_cast<QAbstractButton*>(widget) && widget->focusPolicy() == Qt::StrongFocus)
            widget->setFocusPolicy(Qt::TabFocus);
        if ((isTyped(widget) || isTurned(widget)) && widget->focusPolicy() == Qt::WheelFocus)
            widget->setFocusPolicy(Qt::StrongFocus);
        return false;
    case QEvent::FocusIn:
        if (isTyped(widget))
            if (const QLineEdit* text = textOf(*widget))
                widget->setProperty(kBefore, text->text());
        return false;
    case QEvent::Wheel:
        return (isTyped(widget) || isTurned(widget)) && wheel(*widget, *event);
    case QEvent::ShortcutOverride:
        if (belongsTo(*widget, *static_cast<QKeyEvent*>(event))) {
            event->accept(); // no command is looked for, the key goes to the field
            return true;
        }
        return false;
    case QEvent::KeyPress:
        return static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape && escape(*widget);
    default:
        return false;
    }
}

bool FieldGuard::wheel(QWidget& field, QEvent& event) {
    if (field.hasFocus() || qobject_cast<QLineEdit*>(&field))
        return false;
    for (QWidget* parent = field.parentWidget(); parent; parent = parent->parentWidget())
        if (auto* area = qobject_cast<QAbstractScrollArea*>(parent)) {
            QCoreApplication::sendEvent(area->verticalScrollBar(), &event);
            break;
        }
    return true;
}

bool FieldGuard::escape(QWidget& field) {
    const bool ours = isTyped(&field) || isTurned(&field) ||
                      qobject_cast<QAbstractButton*>(&field) || isList(&field);
    if (!ours || QApplication::activeModalWidget() || QApplication::activePopupWidget())
        return false;
    if (isTyped(&field) && field.property(kBefore).isValid())
        if (QLineEdit* text = textOf(field))
            text->setText(field.property(kBefore).toString());
    m_give_back();
    return true;
}

} // namespace wirenote::app
