#pragma once

#include "base/result.h"
#include "base/sound.h"

#include <filesystem>
#include <optional>
#include <string>
#include <string_view>

namespace wirenote {

// How a sound is kept: WAV with 24 bits; FLAC with 16; Ogg Vorbis and MP3 at a good quality.
enum class SoundFormat { Wav, Flac, Ogg, Mp3 };
std::string_view endingOf(SoundFormat format); // "wav", "flac", "ogg", "mp3"
std::optional<SoundFormat> soundFormatOf(std::string_view ending);

// Mono sound as the bytes of such a file. Samples beyond ±1 are clipped. Errors: an encoder that is
// not there.
Result<std::string> encodeSound(SoundView sound, SoundFormat format);

// Writes mono sound as a 24-bit WAV file, whole or not at all. Samples beyond ±1 are clipped.
Status writeWav(const std::filesystem::path& path, SoundView sound);

} // namespace wirenote
