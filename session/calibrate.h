// A calibration take: each open string, then its twelfth fret, thickest string first.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "strings/calibration.h"

#include <filesystem>

namespace wirenote {

// Finds the notes of the take, checks that they are the strings of this instrument in order, and
// measures each. Errors: the recording cannot be used; a string was not heard, or sounds like
// another (which one, and what to do); cancelled.
Result<Calibration>
calibrate(const std::filesystem::path& media, const Instrument& instrument, const JobControl& job);

} // namespace wirenote
