#include "app/screen_room.h"

#include <QGuiApplication>
#include <QScreen>
#include <QWidget>
#include <algorithm>

namespace wirenote::app {

void openOnAScreen(QWidget& window, QSize usual, const QByteArray& kept) {
    window.resize(usual);
    if (!kept.isEmpty())
        window.restoreGeometry(kept);
    const QScreen* screen = QGuiApplication::screenAt(window.geometry().center());
    if (!screen)
        screen = QGuiApplication::primaryScreen();
    constexpr QSize kFrame(8, 40); // what a window manager puts about it, on top above all
    const QRect room = screen->availableGeometry();
    window.resize(window.size().boundedTo(room.size() - kFrame));
    if (room.contains(window.geometry().adjusted(-4, -36, 4, 4)))
        return;
    const QSize left = room.size() - window.size() - kFrame;
    window.move(room.left() + std::clamp(window.x() - room.left(), 0, std::max(0, left.width())),
                room.top() + std::clamp(window.y() - room.top(), 0, std::max(0, left.height())));
}

} // namespace wirenote::app
