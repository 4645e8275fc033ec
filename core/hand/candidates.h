#pragma once

#include "music/instrument.h"

#include <vector>

namespace wirenote {

// Every place of this pitch on the neck, thinnest string first; of a natural harmonic the nodes.
std::vector<Position> candidatesFor(const Instrument& instrument, int midi, bool harmonic = false);

} // namespace wirenote
