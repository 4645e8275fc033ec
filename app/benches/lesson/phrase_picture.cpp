#include "app/benches/lesson/phrase_picture.h"

#include "painting/paint_page.h"
#include "session/sheet.h"

#include <QPainter>

namespace wirenote::app {

QImage phrasePicture(const Piece& piece, const TeachPhrase& phrase, double dots_mm) {
    constexpr double kRoom_mm = 3.0;
    const SheetPage page = excerptPage(piece, phrase.first_bar, phrase.last_bar);
    QRectF inked;
    for (const SystemPlace& system : page.systems)
        inked |= QRectF(QPointF(system.box.left, system.box.top),
                        QPointF(system.box.right, system.box.bottom));
    if (inked.isEmpty())
        return {};
    inked.adjust(-kRoom_mm, -kRoom_mm, kRoom_mm, kRoom_mm);
    QImage image((inked.size() * dots_mm).toSize(), QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(-inked.topLeft() * dots_mm);
    paintPage(painter, page, dots_mm);
    return image;
}

} // namespace wirenote::app
