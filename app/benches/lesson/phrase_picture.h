#pragma once

#include "lesson/breakdown.h"

#include <QImage>

namespace wirenote::app {

// The tab of a phrase on white paper, cut to what is inked; `dots_mm`: pixels to a millimetre.
QImage phrasePicture(const Piece& piece, const TeachPhrase& phrase, double dots_mm);

} // namespace wirenote::app
