#pragma once

#include "music/scales.h"

#include <QString>

namespace wirenote::app {

QString keyText(const KeyGuess& key, Spelling spelling); // "A minor"
QString scaleText(ScaleKind kind);                       // "minor pentatonic"

} // namespace wirenote::app
