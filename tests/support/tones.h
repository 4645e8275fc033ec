// Signals with known answers.
#pragma once

#include "base/sound.h"

#include <cmath>
#include <cstddef>
#include <cstdint>
#include <numbers>
#include <vector>

namespace wirenote::test {

struct Tone {
    double start_s = 0.0;
    double length_s = 1.0;
    double f0_hz = 220.0;
    double level = 0.4;
    double stiffness = 0.0;
    double decay_per_s = 2.0;
    double vibrato_cents = 0.0; // each way, at 5 Hz
    int partials = 8;
};

inline Sound silence(double length_s, double rate_hz) {
    return {std::vector<float>(static_cast<std::size_t>(length_s * rate_hz), 0.0F), rate_hz};
}

// A struck harmonic (or stiff) tone: sharp attack, exponential decay, 20 ms release.
inline void addTone(Sound& sound, const Tone& tone) {
    const auto first = static_cast<std::size_t>(tone.start_s * sound.rate_hz);
    const auto count = static_cast<std::size_t>(tone.length_s * sound.rate_hz);
    for (int n = 1; n <= tone.partials; ++n) {
        const double f = n * tone.f0_hz * std::sqrt(1.0 + tone.stiffness * n * n);
        if (f > 0.45 * sound.rate_hz)
            break;
        double phase = 0.3 * n;
        for (std::size_t i = 0; i < count && first + i < sound.samples.size(); ++i) {
            const double t = static_cast<double>(i) / sound.rate_hz;
            const double cents = tone.vibrato_cents * std::sin(2.0 * std::numbers::pi * 5.0 * t);
            phase += 2.0 * std::numbers::pi * f * std::exp2(cents / 1200.0) / sound.rate_hz;
            const double attack = std::min(1.0, t / 0.002);
            const double release = std::min(1.0, (tone.length_s - t) / 0.02);
            sound.samples[first + i] += static_cast<float>(
                tone.level / n * attack * release *
                std::exp(-tone.decay_per_s * t * (0.5 + 0.5 * n)) * std::sin(phase));
        }
    }
}

inline void addNoise(Sound& sound, double level) {
    std::uint32_t state = 1;
    for (float& v : sound.samples) {
        state = state * 1664525U + 1013904223U;
        v += static_cast<float>(level * (static_cast<double>(state >> 8U) / 8388608.0 - 1.0));
    }
}

} // namespace wirenote::test
