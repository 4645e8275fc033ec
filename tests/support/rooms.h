// Rooms of known reverberation time, for sounds with known answers.
#pragma once

#include "base/sound.h"
#include "signal/fft.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <random>

namespace wirenote::test {

// The sound as heard in a room: exponentially decaying noise after 10 ms (the model of a diffuse
// field; Schroeder's reverberation time), with `direct_db` more energy in the direct sound.
inline Sound inRoom(const Sound& dry, double reverberation_s, double direct_db) {
    const auto gap = static_cast<std::size_t>(0.01 * dry.rate_hz);
    const auto length = static_cast<std::size_t>(1.2 * reverberation_s * dry.rate_hz);
    const int size = static_cast<int>(std::bit_ceil(dry.samples.size() + gap + length));
    RealFft sound(size);
    RealFft room(size);
    std::ranges::fill(sound.time(), 0.0F);
    std::ranges::copy(dry.samples, sound.time().begin());
    std::ranges::fill(room.time(), 0.0F);
    std::mt19937 random(3);
    std::normal_distribution<double> noise;
    double energy = 0.0;
    for (std::size_t i = 0; i < length; ++i) {
        const double t = static_cast<double>(i) / dry.rate_hz;
        const double v = noise(random) * std::pow(10.0, -3.0 * t / reverberation_s);
        energy += v * v;
        room.time()[gap + i] = static_cast<float>(v);
    }
    const double gain = std::pow(10.0, -direct_db / 20.0) / std::sqrt(energy);
    for (float& v : room.time())
        v = static_cast<float>(gain * v);
    room.time()[0] += 1.0F;
    sound.forward();
    room.forward();
    for (std::size_t b = 0; b < sound.spectrum().size(); ++b)
        sound.spectrum()[b] *= room.spectrum()[b] / static_cast<float>(size);
    sound.inverse();
    Sound wet = dry;
    std::copy_n(sound.time().begin(), wet.samples.size(), wet.samples.begin());
    return wet;
}

} // namespace wirenote::test
