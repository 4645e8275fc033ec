#pragma once

#include "base/result.h"
#include "base/sound.h"

#include <filesystem>

namespace wirenote {

// Writes mono sound as a 24-bit WAV file, whole or not at all. Samples beyond ±1 are clipped.
Status writeWav(const std::filesystem::path& path, SoundView sound);

} // namespace wirenote
