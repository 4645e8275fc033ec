// What stands on a sheet, as fields of a JSON object.
#pragma once

#include "base/json_fields.h"
#include "piece/sheet_style.h"

#include <optional>
#include <string>

namespace wirenote {

namespace json_fields {
Json sheetToJson(const SheetStyle& sheet);
SheetStyle sheetFrom(const Json& json, Fields& fields);
} // namespace json_fields

// A style by itself, as a person keeps it: one line of JSON.
std::string writeSheetStyle(const SheetStyle& sheet);
// Nothing for what is none.
std::optional<SheetStyle> readSheetStyle(const std::string& text);

} // namespace wirenote
