#pragma once

#include <span>
#include <vector>

namespace wirenote {

// Which channels of a recording are heard. Difference: half of left minus right, without what is in
// the middle of the picture.
enum class ChannelChoice { Mix, Left, Right, Difference };

// What a person should know of a recording before trusting it: it breaks off before the end it
// promises; was cut off at its peaks; has a silent channel, or samples that are no numbers; its
// sampling rate is low.
enum class SoundCaution { Truncated, Clipped, DeadChannel, BadSamples, LowRate };

// Mono sound, nominal range -1..1 (float recordings may exceed it). The view does not own.
struct SoundView {
    std::span<const float> samples;
    double rate_hz = 0.0;

    double length_s() const {
        return rate_hz > 0 ? static_cast<double>(samples.size()) / rate_hz : 0.0;
    }
};

struct Sound {
    std::vector<float> samples;
    double rate_hz = 0.0;

    SoundView view() const { return {samples, rate_hz}; }
    double length_s() const { return view().length_s(); }
};

} // namespace wirenote
