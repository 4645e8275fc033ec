// A note, its plan and what the plans rest on as JSON objects: shared by the piece file and the
// journal.
#pragma once

#include "base/json_fields.h"
#include "piece/piece.h"

namespace wirenote::json_fields {

Json noteToJson(const Note& note);
Note noteFrom(const Json& json, Fields& fields, const std::string& where);
Json planToJson(const NotePlan& plan);
NotePlan planFrom(const Json& json, Fields& fields, const std::string& where);
// Without the plans.
Json readingHeadToJson(const ReadingHead& head);
ReadingHead readingHeadFrom(const Json& json, Fields& fields, const std::string& where);
Json logEntryToJson(const LogEntry& entry);
LogEntry logEntryFrom(const Json& json, Fields& fields);

} // namespace wirenote::json_fields
