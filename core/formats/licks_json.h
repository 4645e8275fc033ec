// A collection of licks as a file: wirenote-licks/1.
#pragma once

#include "base/result.h"
#include "readings/licks.h"

#include <string>
#include <vector>

namespace wirenote {

std::string writeLicksJson(const std::vector<Lick>& licks);
// Errors: what is not such a file, or breaks its bounds.
Result<std::vector<Lick>> readLicksJson(const std::string& text);

} // namespace wirenote
