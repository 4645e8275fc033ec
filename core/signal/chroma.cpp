#include "signal/chroma.h"

#include "music/pitch.h"
#include "signal/fft.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wirenote {
namespace {

constexpr double kWindow_s = 0.12;
constexpr double kLowest_hz = 60.0;
constexpr double kHighest_hz = 3500.0;
constexpr double kLogGain = 1000.0;
constexpr int kDecayFrames = 8;
constexpr int kNearFrames = 50; // ± a second, for the local loudest beginning

struct Bin {
    std::size_t index = 0;
    std::size_t pitch_class = 0;
};

std::vector<Bin> binsOf(double rate_hz, int fft_size, double a4_hz) {
    std::vector<Bin> bins;
    const double bin_hz = rate_hz / fft_size;
    for (auto b = static_cast<std::size_t>(kLowest_hz / bin_hz);
         b < static_cast<std::size_t>(fft_size / 2);
         ++b) {
        const double hz = static_cast<double>(b) * bin_hz;
        if (hz > kHighest_hz)
            break;
        const auto midi = static_cast<int>(std::lround(midiFromHz(hz, a4_hz)));
        bins.push_back({b, static_cast<std::size_t>(((midi % 12) + 12) % 12)});
    }
    return bins;
}

Chroma centred(const Chroma& c) {
    float mean = 0.0F;
    for (const float v : c)
        mean += v / 12.0F;
    Chroma out{};
    float length = 0.0F;
    for (std::size_t k = 0; k < 12; ++k) {
        out[k] = c[k] - mean;
        length += out[k] * out[k];
    }
    if (length < 1e-8F)
        return {};
    for (float& v : out)
        v /= std::sqrt(length);
    return out;
}

void normaliseBeginnings(std::vector<Chroma>& beginning) {
    std::vector<float> strength;
    for (const Chroma& c : beginning) {
        float sum = 0.0F;
        for (const float v : c)
            sum += v * v;
        strength.push_back(std::sqrt(sum));
    }
    const auto n = static_cast<int>(beginning.size());
    std::vector<Chroma> spread = beginning;
    for (int i = 0; i < n; ++i) {
        float loudest = 1e-3F;
        for (int j = std::max(0, i - kNearFrames); j < std::min(n, i + kNearFrames); ++j)
            loudest = std::max(loudest, strength[static_cast<std::size_t>(j)]);
        for (float& v : spread[static_cast<std::size_t>(i)])
            v /= loudest;
    }
    // What has begun dies away over some frames, so that two beginnings near each other still meet.
    for (int i = 0; i < n; ++i) {
        Chroma& out = beginning[static_cast<std::size_t>(i)];
        out = {};
        for (int back = 0; back < kDecayFrames && back <= i; ++back) {
            const float weight = std::sqrt(1.0F - static_cast<float>(back) / kDecayFrames);
            for (std::size_t k = 0; k < 12; ++k)
                out[k] = std::max(out[k], weight * spread[static_cast<std::size_t>(i - back)][k]);
        }
    }
}

} // namespace

Result<ChromaTrack> chromaOf(SoundView sound, double a4_hz, const JobControl& job) {
    ChromaTrack track;
    const auto window_length = static_cast<std::size_t>(kWindow_s * sound.rate_hz);
    int size = 16;
    while (size < static_cast<int>(window_length) * 2)
        size *= 2;
    RealFft fft(size);
    std::vector<float> window(window_length);
    for (std::size_t i = 0; i < window_length; ++i)
        window[i] = static_cast<float>(
            (1.0 - std::cos(2.0 * std::numbers::pi * (static_cast<double>(i) + 0.5) /
                            static_cast<double>(window_length))) *
            2.0 / static_cast<double>(window_length));
    const auto bins = binsOf(sound.rate_hz, size, a4_hz);
    const auto frames = static_cast<std::size_t>(sound.length_s() / track.hop_s);
    std::vector<float> before(bins.size(), 0.0F);
    for (std::size_t f = 0; f < frames; ++f) {
        if (f % 256 == 0) {
            if (job.cancelRequested())
                return cancelled();
            job.report(static_cast<double>(f) * track.hop_s, sound.length_s());
        }
        const auto in = fft.time();
        std::fill(in.begin(), in.end(), 0.0F);
        const auto first =
            static_cast<std::ptrdiff_t>(static_cast<double>(f) * track.hop_s * sound.rate_hz) -
            static_cast<std::ptrdiff_t>(window_length / 2);
        for (std::size_t i = 0; i < window_length; ++i) {
            const std::ptrdiff_t at = first + static_cast<std::ptrdiff_t>(i);
            if (at >= 0 && at < static_cast<std::ptrdiff_t>(sound.samples.size()))
                in[i] = window[i] * sound.samples[static_cast<std::size_t>(at)];
        }
        fft.forward();
        Chroma sounding{};
        Chroma beginning{};
        for (std::size_t k = 0; k < bins.size(); ++k) {
            const auto level = static_cast<float>(
                std::log1p(kLogGain * std::sqrt(std::norm(fft.spectrum()[bins[k].index]))));
            sounding[bins[k].pitch_class] += level;
            beginning[bins[k].pitch_class] += std::max(0.0F, level - before[k]);
            before[k] = level;
        }
        track.sounding.push_back(centred(sounding));
        track.beginning.push_back(beginning);
    }
    normaliseBeginnings(track.beginning);
    return track;
}

double alike(const Chroma& a, const Chroma& b, int semitones_up) {
    double sum = 0.0;
    const int turn = ((semitones_up % 12) + 12) % 12;
    for (int k = 0; k < 12; ++k)
        sum += static_cast<double>(a[static_cast<std::size_t>(k)]) *
               b[static_cast<std::size_t>((k + turn) % 12)];
    return sum;
}

} // namespace wirenote
