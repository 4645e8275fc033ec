// A take as a JSON object of the piece file.
#pragma once

#include "base/json_fields.h"
#include "piece/take.h"

#include <string>
#include <utility>

namespace wirenote::json_fields {

// The name of a file, which is bytes while JSON is UTF-8: the field and the text to be written.
std::pair<const char*, std::string> pathField(const std::string& path);
std::string pathFrom(const Json& json, Fields& fields, const std::string& where);

Json takeToJson(const Take& take);
Take takeFrom(const Json& json, Fields& fields, const std::string& where);

} // namespace wirenote::json_fields
