// Checked claims as a file.
#pragma once

#include "lesson/claims.h"

#include <string>
#include <vector>

namespace wirenote {

// A list of {"cue" (number of the caption, from 1), "start_s" (of it), "bar", "field", "said",
// "is", "verdict"}, with "hear_s" where the note is to be heard and the "text" of the caption.
std::string writeClaimsJson(const std::vector<CheckedClaim>& claims);

} // namespace wirenote
