#pragma once

#include "base/result.h"
#include "strings/calibration.h"

#include <string>

namespace wirenote {

std::string writeCalibrationJson(const Calibration& calibration);
// Errors: what is wrong, and where.
Result<Calibration> readCalibrationJson(const std::string& text);

} // namespace wirenote
