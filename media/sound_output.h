#pragma once

#include "base/result.h"

#include <cstdint>
#include <memory>
#include <span>

namespace wirenote {

// Gives sound when asked: interleaved stereo, left first. Called from the output's own thread.
class SoundSource {
  public:
    virtual ~SoundSource() = default;
    virtual void fill(std::span<float> stereo) = 0;
};

// Something that plays: a real device, or the simulated one that keeps real time and makes no
// sound.
class SoundOutput {
  public:
    virtual ~SoundOutput() = default;
    virtual Status start(SoundSource& source, double rate_hz) = 0; // the source must outlive stop()
    virtual void stop() = 0;
    virtual std::int64_t framesHeard() const = 0; // since start(), never falling; any thread
    virtual bool simulated() const = 0;
};

// SIMULATED sound device: pulls sound at real-time speed and throws it away.
std::unique_ptr<SoundOutput> makeSimulatedOutput();

} // namespace wirenote
