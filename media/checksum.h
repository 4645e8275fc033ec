#pragma once

#include "base/result.h"

#include <filesystem>
#include <string>

namespace wirenote {

// SHA-256 (FIPS 180-4) of a file's bytes, lower-case hexadecimal.
Result<std::string> fileSha256(const std::filesystem::path& path);

} // namespace wirenote
