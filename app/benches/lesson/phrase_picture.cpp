#include "app/benches/lesson/phrase_picture.h"

#include "painting/paint_page.h"

#include <QPainter>
#include <algorithm>

namespace wirenote::app {

QImage phrasePicture(const SheetPage& page, double dots_mm) {
    constexpr double kRoom_mm = 3.0;
    constexpr double kNames_mm = 14.0; // of the rows, left of the staff
    QRectF inked;
    for (const SystemPlace& system : page.systems)
        inked |= QRectF(QPointF(system.box.left, system.box.top),
                        QPointF(system.box.right, system.box.bottom));
    if (inked.isEmpty())
        return {};
    inked.adjust(-std::min(kNames_mm, inked.left()), -kRoom_mm, kRoom_mm, kRoom_mm);
    QImage image((inked.size() * dots_mm).toSize(), QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(-inked.topLeft() * dots_mm);
    paintPage(painter, page, dots_mm);
    return image;
}

} // namespace wirenote::app
