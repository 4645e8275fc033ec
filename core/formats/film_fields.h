// What is known of a take's film, as files keep it.
#pragma once

#include "base/json_fields.h"
#include "piece/film_facts.h"

namespace wirenote::json_fields {

Json filmToJson(const FilmFacts& film);
FilmFacts filmFrom(const Json& json, Fields& fields, const std::string& where);

// "video" of a notes file: the offset and the corners of the neck, picture by picture.
Json videoToJson(const FilmFacts& film);

} // namespace wirenote::json_fields
