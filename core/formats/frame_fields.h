// What of a piece is not a note, as fields of a JSON object: shared by the piece file and the
// journal.
#pragma once

#include "base/json_fields.h"
#include "piece/delta.h"

namespace wirenote::json_fields {

// Adds title, instrument, takes, timeline, key, traits of the strings, near misses, what the reading
// rests on and the next number of a note.
void frameToJson(const PieceDelta::Frame& frame, Json& json);
// Also reads files of the first version, which had one take.
PieceDelta::Frame frameFrom(const Json& json, Fields& fields);

} // namespace wirenote::json_fields
