// The timeline as a JSON object of the piece file.
#pragma once

#include "base/json_fields.h"
#include "piece/timeline.h"

namespace wirenote::json_fields {

Json timelineToJson(const Timeline& timeline);
Timeline timelineFrom(const Json& json, Fields& fields);

} // namespace wirenote::json_fields
