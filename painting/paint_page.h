// Draws what core/engraving laid out, alike on screen and on paper.
#pragma once

#include "engraving/ink.h"

#include <QColor>

class QPainter;

namespace wirenote {

struct PaintStyle {
    QColor ink = QColor("#23261f");
    QColor paper = QColor("#ffffff");
    bool outlines = false; // signs and texts as shapes, for files that carry no fonts
};

// One page; `scale`: units of the painter to a millimetre.
void paintPage(QPainter& painter,
               const SheetPage& page,
               double scale,
               const PaintStyle& style = {});

} // namespace wirenote
