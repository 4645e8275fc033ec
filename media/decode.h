// Recordings in: WAV and FLAC by way of FFmpeg. Local files only; nothing that refers to other
// files.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"

#include <filesystem>
#include <string>
#include <vector>

namespace wirenote {

// What a person should know of a decoded recording before trusting it.
enum class SoundCaution { Truncated, Clipped, DeadChannel, BadSamples, LowRate };

struct DecodedSound {
    Sound mono; // mean of the channels that carry sound, at the wanted rate
    double file_rate_hz = 0.0;
    int file_channels = 0;
    std::vector<SoundCaution> cautions;
};

struct DecodeLimits {
    double longest_s = 4 * 3600.0;
    double shortest_s = 0.15; // shorter than any note worth writing down
};

// Decodes the whole file to mono at rate_hz (0: the file's own rate). Samples that are not numbers
// become silence. Errors: not there, not readable, no sound in it, empty, too short, silent,
// cancelled.
Result<DecodedSound> decodeSound(const std::filesystem::path& path,
                                 double rate_hz,
                                 const JobControl& job,
                                 const DecodeLimits& limits = {});

// The same sound at another rate (libswresample).
Result<Sound> resample(SoundView sound, double rate_hz);

} // namespace wirenote
