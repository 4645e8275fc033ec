#include "app/playing/listen_settings.h"

#include "media/time_stretch.h"

#include <QSettings>
#include <algorithm>

namespace wirenote::app {

ListenSettings readListenSettings(const QSettings& settings) {
    ListenSettings listen;
    const auto number = [&settings](const char* key, double usual, double low, double high) {
        bool ok = false;
        const double value = settings.value(key, usual).toDouble(&ok);
        return ok ? std::clamp(value, low, high) : usual;
    };
    // Speed and pitch start as recorded: a piece that sounds wrong at once frightens.
    listen.click = settings.value("listen/click", listen.click).toBool();
    listen.count_in = static_cast<int>(number("listen/count_in", 0, 0, 16));
    listen.lead_in_s = number("listen/lead_in_s", 0.0, 0.0, 10.0);
    listen.level_match = settings.value("listen/level_match", listen.level_match).toBool();
    listen.limit_db = number("listen/limit_db", listen.limit_db, kLowestLimit_db, kHighestLimit_db);
    return listen;
}

void keepListenSettings(QSettings& settings, const ListenSettings& listen) {
    settings.setValue("listen/click", listen.click);
    settings.setValue("listen/count_in", listen.count_in);
    settings.setValue("listen/lead_in_s", listen.lead_in_s);
    settings.setValue("listen/level_match", listen.level_match);
    settings.setValue("listen/limit_db", listen.limit_db);
}

} // namespace wirenote::app
