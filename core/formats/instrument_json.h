#pragma once

#include "base/result.h"
#include "music/instrument.h"

#include <string>

namespace wirenote {

// An instrument description of its own (FILE.json of --instrument), as in the notes JSON's
// "instrument".
Result<Instrument> readInstrumentJson(const std::string& text);

} // namespace wirenote
