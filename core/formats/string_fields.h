// What was heard of each note, and of each string of the instrument; shared by the piece file and
// the calibration file.
#pragma once

#include "base/json_fields.h"
#include "piece/piece.h"

namespace wirenote::json_fields {

// "attack", "thick_first", "stiffness", "tone" and "squeak_before"; each only when it was heard.
void heardToJson(const HeardFacts& heard, Json& json);
void seenToJson(const SeenFacts& seen, Json& json);
SeenFacts seenFrom(const Json& json, Fields& fields, const std::string& where);
HeardFacts heardFrom(const Json& json, Fields& fields, const std::string& where);

// "tone" of a string; nothing when no figure is known.
void toneToJson(const StringTrait& trait, Json& json);
void toneFrom(const Json& json, StringTrait& trait, Fields& fields, const std::string& where);

Json traitsToJson(const std::vector<StringTrait>& traits);
std::vector<StringTrait> traitsFrom(const Json& json, Fields& fields);

} // namespace wirenote::json_fields
