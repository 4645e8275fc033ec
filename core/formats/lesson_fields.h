// The lesson of a piece in JSON.
#pragma once

#include "base/json_fields.h"
#include "piece/lesson_plan.h"

namespace wirenote::json_fields {

// What is as usual is left out.
Json lessonToJson(const LessonPlan& plan);
LessonPlan lessonFrom(const Json& json, Fields& fields);

} // namespace wirenote::json_fields
