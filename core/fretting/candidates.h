#pragma once

#include "music/instrument.h"

#include <vector>

namespace wirenote {

// Every place of this pitch on the neck, thinnest string first.
std::vector<Position> candidatesFor(const Instrument& instrument, int midi);

} // namespace wirenote
