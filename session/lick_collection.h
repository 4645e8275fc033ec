// The licks that a person keeps across pieces.
#pragma once

#include "base/result.h"
#include "readings/licks.h"

#include <filesystem>
#include <vector>

namespace wirenote {

// None where there is no such file yet. Error: it is there and cannot be read, with its name.
Result<std::vector<Lick>> readLicks(const std::filesystem::path& file);
// Whole or not at all; makes its folder.
Status writeLicks(const std::filesystem::path& file, const std::vector<Lick>& licks);

} // namespace wirenote
