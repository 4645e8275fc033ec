#pragma once

#include "base/result.h"

#include <cstddef>
#include <filesystem>
#include <string>
#include <string_view>

namespace wirenote {

// Writes the file whole or not at all: to a neighbour first, flushed to the disk, then renamed
// over. An earlier file of that name stays untouched when anything fails (no room, no permission).
Status writeFileAtomically(const std::filesystem::path& path, std::string_view bytes);

// Reads a whole file of at most `max_bytes`; anything longer is refused, as is a folder.
Result<std::string> readWholeFile(const std::filesystem::path& path, std::size_t max_bytes);

} // namespace wirenote
