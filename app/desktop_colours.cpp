#include "app/desktop_colours.h"

#include <QDBusConnection>
#include <QDBusMessage>
#include <QDBusReply>
#include <QDBusVariant>
#include <QSettings>

namespace wirenote::app {
namespace {
constexpr int kPatience_ms = 300; // for somebody who is waiting for the window
constexpr uint kPrefersDark = 1;
constexpr const char* kKey = "window/colours";
} // namespace

Colours chosenColours(const QSettings& settings) {
    const QString word = settings.value(kKey).toString();
    return word == "dark" ? Colours::Dark : word == "light" ? Colours::Light : Colours::Desktop;
}

void keepColours(QSettings& settings, Colours colours) {
    settings.setValue(kKey,
                      colours == Colours::Dark    ? "dark"
                      : colours == Colours::Light ? "light"
                                                  : "desktop");
}

bool desktopIsDark() {
    const QDBusConnection bus = QDBusConnection::sessionBus();
    if (!bus.isConnected())
        return false;
    QDBusMessage question = QDBusMessage::createMethodCall("org.freedesktop.portal.Desktop",
                                                           "/org/freedesktop/portal/desktop",
                                                           "org.freedesktop.portal.Settings",
                                                           "Read");
    question << QString("org.freedesktop.appearance") << QString("color-scheme");
    const QDBusReply<QDBusVariant> reply = bus.call(question, QDBus::Block, kPatience_ms);
    if (!reply.isValid())
        return false;
    QVariant value = reply.value().variant(); // wrapped once more by some portals
    if (value.canConvert<QDBusVariant>())
        value = value.value<QDBusVariant>().variant();
    return value.toUInt() == kPrefersDark;
}

} // namespace wirenote::app
