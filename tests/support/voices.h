// SIMULATED: somebody talking, as far as tests need it: a voice that glides from syllable to
// syllable, with formants that move, hiss between them, and pauses.
#pragma once

#include "base/sound.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>

namespace wirenote::test {

inline void
addTalk(Sound& sound, double start_s, double end_s, unsigned seed = 1, double level = 0.1) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> chance(0.0, 1.0);
    const double rate = sound.rate_hz;
    double phase = 0.0;
    double noise = 0.0;
    for (double t = start_s; t < end_s;) {
        const double syllable_s = 0.12 + 0.14 * chance(random);
        const double from_hz = 105.0 + 70.0 * chance(random);
        const double to_hz = from_hz * (0.75 + 0.5 * chance(random));
        const double first_hz = 350.0 + 500.0 * chance(random);
        const double second_hz = 1000.0 + 1300.0 * chance(random);
        const double hiss_s = chance(random) < 0.5 ? 0.09 : 0.0;
        const double loud = 0.5 + 0.5 * chance(random);
        const auto first = static_cast<std::size_t>(t * rate);
        const auto voiced = static_cast<std::size_t>(syllable_s * rate);
        const auto hiss = static_cast<std::size_t>(hiss_s * rate);
        for (std::size_t i = 0; i < voiced + hiss && first + i < sound.samples.size(); ++i) {
            const double part = static_cast<double>(i) / static_cast<double>(voiced);
            double v = 0.0;
            if (i < voiced) {
                const double f0 = from_hz + (to_hz - from_hz) * part;
                const double moved = second_hz * (1.0 + 0.25 * part);
                phase += 2.0 * std::numbers::pi * f0 / rate;
                for (int k = 1; k * f0 < 3500.0; ++k) {
                    const auto near = [&](double formant, double width) {
                        return std::exp(-0.5 * std::pow((k * f0 - formant) / width, 2));
                    };
                    v += (0.05 + near(first_hz, 130.0) + 0.6 * near(moved, 220.0)) *
                         std::sin(k * phase);
                }
                v *= std::sin(std::numbers::pi * part);
            } else { // white, without its lower half
                const double white = 2.0 * chance(random) - 1.0;
                v = 1.2 * (white - noise);
                noise = white;
            }
            sound.samples[first + i] += static_cast<float>(level * loud * v);
        }
        t += syllable_s + hiss_s + (chance(random) < 0.15 ? 0.35 : 0.02);
    }
}

} // namespace wirenote::test
