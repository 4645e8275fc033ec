#pragma once

#include "base/result.h"
#include "score/tab_page.h"

#include <QString>

class QPainter;

namespace wirenote::app {

// Draws one page; the painter's units are pixels, `pixels_per_mm` of them to the millimetre.
void paintTabPage(QPainter& painter, const TabPage& page, double pixels_per_mm);

// The plain tab page as PDF, whole or not at all.
Status writePdf(const Piece& piece, const QString& path);

} // namespace wirenote::app
