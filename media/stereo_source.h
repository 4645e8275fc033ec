#pragma once

#include "base/sound.h"

#include <cstdint>
#include <memory>
#include <span>

namespace wirenote {

// Stereo sound that can be read from anywhere, at the playing rate. Frames outside it are silence.
class StereoSource {
  public:
    virtual ~StereoSource() = default;
    virtual double rate_hz() const = 0;
    virtual std::int64_t frames() const = 0;
    // Interleaved, left first; fills `out` whatever happens. May decode: not for a thread that must
    // not wait.
    virtual void read(std::int64_t first_frame, std::span<float> out) = 0;
};

// A mono sound in memory, on both sides.
class MemorySource : public StereoSource {
  public:
    explicit MemorySource(std::shared_ptr<const Sound> sound) : m_sound(std::move(sound)) {}
    double rate_hz() const override { return m_sound->rate_hz; }
    std::int64_t frames() const override {
        return static_cast<std::int64_t>(m_sound->samples.size());
    }
    void read(std::int64_t first_frame, std::span<float> out) override {
        for (std::size_t i = 0; 2 * i + 1 < out.size(); ++i) {
            const std::int64_t at = first_frame + static_cast<std::int64_t>(i);
            const float v =
                at >= 0 && at < frames() ? m_sound->samples[static_cast<std::size_t>(at)] : 0.0F;
            out[2 * i] = out[2 * i + 1] = v;
        }
    }

  private:
    std::shared_ptr<const Sound> m_sound;
};

} // namespace wirenote
