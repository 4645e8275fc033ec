// The instrument as a JSON object, shared by the notes JSON and the piece file.
#pragma once

#include "base/json_fields.h"
#include "music/instrument.h"

namespace wirenote::json_fields {

Json instrumentToJson(const Instrument& instrument);
Instrument instrumentFrom(const Json& json, Fields& fields);

} // namespace wirenote::json_fields
