#pragma once

#include <QByteArray>
#include <QSize>

class QWidget;

namespace wirenote::app {

// Puts a window where it was the last time (`kept`, as QWidget::saveGeometry gave it; empty: of its
// usual size), but all of it on a screen that is there now.
void openOnAScreen(QWidget& window, QSize usual, const QByteArray& kept);

} // namespace wirenote::app
