// What one hand can hold at once.
#pragma once

#include "music/instrument.h"

#include <vector>

namespace wirenote {

// True when these pitches can be taken at once: distinct strings, fretted notes within `reach`
// frets.
bool playableAtOnce(const Instrument& instrument, const std::vector<int>& midis, int reach = 4);

} // namespace wirenote
