// What of a piece is not a note, as fields of a JSON object: shared by the piece file and the
// journal.
#pragma once

#include "base/json_fields.h"
#include "piece/delta.h"

namespace wirenote::json_fields {

// Adds title, instrument, takes, timeline, key, traits of the strings, near misses, what the
// readings rest on and the next number of a note.
void frameToJson(const PieceDelta::Frame& frame, Json& json);
// Also reads earlier files, which had one take or one reading.
PieceDelta::Frame frameFrom(const Json& json, Fields& fields);

} // namespace wirenote::json_fields
