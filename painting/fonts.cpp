#include "painting/fonts.h"

#include <QFontDatabase>
#include <algorithm>
#include <cmath>

// Resources of a static library are linked only when asked for, outside any namespace.
static void initResources() {
    Q_INIT_RESOURCE(painting);
}

namespace wirenote {

void loadFonts() {
    static const bool loaded = [] {
        initResources();
        for (const char* file :
             {":/fonts/Inter-Regular.otf", ":/fonts/Inter-SemiBold.otf", ":/fonts/Bravura.otf"})
            QFontDatabase::addApplicationFont(file);
        return true;
    }();
    static_cast<void>(loaded);
}

namespace {

// As wide as the tables say: nothing is moved to the grid of pixels, nothing kerned.
QFont exact(const char* family, double px) {
    QFont font(family);
    font.setPixelSize(std::max(1, static_cast<int>(std::lround(px))));
    font.setHintingPreference(QFont::PreferNoHinting);
    font.setKerning(false);
    return font;
}

} // namespace

QFont textFont(double em_px, bool strong) {
    QFont font = exact("Inter", em_px);
    font.setWeight(strong ? QFont::DemiBold : QFont::Normal);
    return font;
}

QFont musicFont(double space_px) {
    QFont font = exact("Bravura", 4.0 * space_px);
    font.setStyleStrategy(QFont::NoFontMerging);
    return font;
}

} // namespace wirenote
