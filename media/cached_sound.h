#pragma once

#include "base/result.h"
#include "media/stereo_source.h"

#include <cstddef>
#include <filesystem>

namespace wirenote {

// A recording read as it is needed: what was decoded last stays in a cache of fixed size, the rest
// is decoded again when it is asked for. So a file of two hours takes no more memory than one of
// two minutes. Any thread; readers wait for each other.
class CachedSound : public StereoSource {
  public:
    struct Options {
        int stream = -1;
        double rate_hz = 44100.0;
        std::size_t most_blocks = 96; // of kBlockFrames each: 24 MiB
    };
    static constexpr std::int64_t kBlockFrames = 32768;

    // Reads the file's index only. Errors: the file cannot be used.
    static Result<std::shared_ptr<CachedSound>> open(const std::filesystem::path& path,
                                                     const Options& options);
    ~CachedSound() override;

    double rate_hz() const override;
    // As promised by the file; corrected when its end is found elsewhere.
    std::int64_t frames() const override;
    void read(std::int64_t first_frame, std::span<float> out) override;

    std::size_t cachedBytes() const;
    // Something could not be read any more (the file was cut, damaged or taken away).
    bool damaged() const;

  private:
    struct State;
    explicit CachedSound(std::unique_ptr<State> state);
    std::unique_ptr<State> m;
};

} // namespace wirenote
