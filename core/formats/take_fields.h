// A take as a JSON object of the piece file.
#pragma once

#include "base/json_fields.h"
#include "piece/take.h"

namespace wirenote::json_fields {

Json takeToJson(const Take& take);
Take takeFrom(const Json& json, Fields& fields, const std::string& where);

} // namespace wirenote::json_fields
