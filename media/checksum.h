#pragma once

#include "base/result.h"

#include <filesystem>
#include <string>

namespace wirenote {

// What tells one recording from another: the SHA-256 (FIPS 180-4) of its bytes, lower-case
// hexadecimal. Of a file over 64 MiB only its size and its first, middle and last 8 MiB take part,
// so that opening a film does not take as long as reading it.
Result<std::string> mediaFingerprint(const std::filesystem::path& path);

} // namespace wirenote
