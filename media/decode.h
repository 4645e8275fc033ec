// Recordings in, for analysis: one sound stream as a whole, to mono.
#pragma once

#include "base/job.h"
#include "base/result.h"
#include "base/sound.h"
#include "base/time_range.h"

#include <filesystem>
#include <functional>
#include <string>
#include <vector>

namespace wirenote {

struct DecodedSound {
    Sound mono; // the chosen channels, at the wanted rate; sample 0 is `start_s`
    double start_s = 0.0;
    double file_rate_hz = 0.0;
    int file_channels = 0;
    std::vector<SoundCaution> cautions;
};

struct DecodeOptions {
    int stream = -1;                             // −1: the file's own choice
    ChannelChoice channels = ChannelChoice::Mix; // mix: mean of the channels that carry sound
    TimeRange span;                              // empty: all of it
    double longest_s = 4 * 3600.0;
    double shortest_s = 0.15; // shorter than any note worth writing down
    // Gets every block before it is mixed, with the rate in hertz: for measuring on the way.
    std::function<void(const std::vector<std::vector<float>>& channels, double rate_hz)> watch;
};

// Decodes to mono at rate_hz (0: the file's own rate). Samples that are not numbers become silence.
// Memory grows with the length of the result alone. Errors: not there, not readable, no sound in
// it, empty, too short, too long, silent, cancelled.
Result<DecodedSound> decodeSound(const std::filesystem::path& path,
                                 double rate_hz,
                                 const JobControl& job,
                                 const DecodeOptions& options = {});

// The same sound at another rate (libswresample).
Result<Sound> resample(SoundView sound, double rate_hz);

} // namespace wirenote
