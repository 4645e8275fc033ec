#pragma once

#include "engraving/ink.h"

#include <QImage>

namespace wirenote::app {

// The inked part of a page on white paper; `dots_mm`: pixels to a millimetre.
QImage phrasePicture(const SheetPage& page, double dots_mm);

} // namespace wirenote::app
