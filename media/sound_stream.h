#pragma once

#include "base/result.h"

#include <filesystem>
#include <memory>
#include <vector>

namespace wirenote {

// Decodes one sound stream of a file block by block, forwards, from any place. One thread at a
// time.
class SoundStream {
  public:
    struct Block {
        double start_s = 0.0;                     // of its first sample, in media time
        std::vector<std::vector<float>> channels; // as decoded, each of the same length
        std::size_t frames() const { return channels.empty() ? 0 : channels.front().size(); }
    };

    // `stream` −1: the file's own choice. Errors: the file cannot be used, or has no such stream.
    static Result<std::unique_ptr<SoundStream>> open(const std::filesystem::path& path,
                                                     int stream = -1);
    ~SoundStream();
    SoundStream(const SoundStream&) = delete;
    SoundStream& operator=(const SoundStream&) = delete;

    double rate_hz() const;
    int channels() const;
    double promised_s() const; // length the file promises; 0 when it does not say

    // The next block, or false at the end. Damaged packets are passed over (damaged()).
    // Errors: the sample rate or the number of channels changes in the middle.
    Result<bool> next(Block& block);
    // The next block starts at or before `time_s`, with what the coder needs to warm up.
    void seek(double time_s);
    // Something could not be decoded, or the file ends before it should.
    bool damaged() const;

  private:
    struct State;
    explicit SoundStream(std::unique_ptr<State> state);
    std::unique_ptr<State> m;
};

} // namespace wirenote
