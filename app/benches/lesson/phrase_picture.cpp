#include "app/benches/lesson/phrase_picture.h"

#include "painting/paint_page.h"
#include "painting/write_sheet.h"

#include <QPainter>

namespace wirenote::app {

QImage phrasePicture(const SheetPage& page, double dots_mm) {
    const QRectF inked = inkedPart(page);
    QImage image((inked.size() * dots_mm).toSize(), QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(-inked.topLeft() * dots_mm);
    paintPage(painter, page, dots_mm);
    return image;
}

} // namespace wirenote::app
