#include "signal/tuning_reference.h"

#include "base/peaks.h"
#include "music/pitch.h"
#include "signal/fft.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <numbers>
#include <vector>

namespace wirenote {

double ReferenceEstimate::a4_hz() const {
    return 440.0 * std::exp2(cents / 1200.0);
}

ReferenceEstimate estimateReference(std::span<const WeightedPitch> pitches) {
    std::complex<double> sum = 0.0;
    double weights = 0.0;
    for (const WeightedPitch& pitch : pitches) {
        sum += pitch.weight * std::polar(1.0, 2.0 * std::numbers::pi * pitch.midi);
        weights += pitch.weight;
    }
    ReferenceEstimate estimate;
    if (weights <= 0.0)
        return estimate;
    constexpr double kCentsPerRadian = 100.0 / (2.0 * std::numbers::pi);
    estimate.certainty = std::min(1.0, std::abs(sum) / weights);
    estimate.cents = std::arg(sum) * kCentsPerRadian;
    estimate.spread_cents =
        std::sqrt(-2.0 * std::log(std::max(estimate.certainty, 1e-9))) * kCentsPerRadian;
    return estimate;
}

namespace {

constexpr int kFft = 16384;
constexpr double kWindow_s = 0.4;
constexpr double kHop_s = 0.2;
constexpr double kLowest_hz = 75.0;
constexpr double kHighest_hz = 1100.0;
constexpr double kBelowPeak = 0.02; // of the frame's loudest partial: −34 dB
constexpr double kKernelCents = 3.0;

// Adds the partials of one frame to the histogram of distances from the grid, one bin a cent.
void addPeaks(RealFft& fft, double rate_hz, std::vector<double>& histogram) {
    std::vector<double> level;
    for (const auto& bin : fft.spectrum())
        level.push_back(std::abs(bin) + 1e-12);
    const double bin_hz = rate_hz / kFft;
    const auto from = static_cast<std::size_t>(kLowest_hz / bin_hz);
    const auto to = std::min(level.size() - 2, static_cast<std::size_t>(kHighest_hz / bin_hz));
    const double loudest = *std::max_element(level.begin() + static_cast<std::ptrdiff_t>(from),
                                             level.begin() + static_cast<std::ptrdiff_t>(to));
    for (std::size_t b = from; b < to; ++b) {
        if (level[b] <= level[b - 1] || level[b] < level[b + 1] ||
            level[b] < kBelowPeak * loudest || level[b] < 1e-4)
            continue;
        const double at =
            static_cast<double>(b) +
            vertexOf(std::log(level[b - 1]), std::log(level[b]), std::log(level[b + 1]));
        const double midi = midiFromHz(at * bin_hz);
        const double cents = 100.0 * (midi - std::round(midi));
        histogram[static_cast<std::size_t>(std::clamp(cents + 50.0, 0.0, 99.0))] +=
            std::sqrt(level[b]);
    }
}

} // namespace

ReferenceEstimate spectralReference(SoundView sound) {
    RealFft fft(kFft);
    std::vector<double> histogram(100, 0.0);
    const auto window =
        std::min<std::size_t>(kFft, static_cast<std::size_t>(kWindow_s * sound.rate_hz));
    const auto hop = static_cast<std::size_t>(kHop_s * sound.rate_hz);
    for (std::size_t at = 0; at + window <= sound.samples.size(); at += hop) {
        const auto in = fft.time();
        std::fill(in.begin(), in.end(), 0.0F);
        for (std::size_t i = 0; i < window; ++i)
            in[i] = static_cast<float>(
                sound.samples[at + i] *
                (0.5 - 0.5 * std::cos(2.0 * std::numbers::pi * (static_cast<double>(i) + 0.5) /
                                      static_cast<double>(window))));
        fft.forward();
        addPeaks(fft, sound.rate_hz, histogram);
    }
    // The densest place of the smoothed histogram, then the mean of what lies near it.
    const auto distance = [](double a, double b) { return std::remainder(a - b, 100.0); };
    double best = 0.0;
    double centre = 0.0;
    double total = 0.0;
    for (int c = 0; c < 100; ++c) {
        double density = 0.0;
        for (int k = 0; k < 100; ++k)
            density += histogram[static_cast<std::size_t>(k)] *
                       std::exp(-0.5 * std::pow(distance(k, c) / kKernelCents, 2.0));
        total += histogram[static_cast<std::size_t>(c)];
        if (density > best) {
            best = density;
            centre = c;
        }
    }
    ReferenceEstimate estimate;
    if (total <= 0.0)
        return estimate;
    double sum = 0.0;
    double weight = 0.0;
    double square = 0.0;
    for (int k = 0; k < 100; ++k)
        if (const double d = distance(k, centre); std::abs(d) < 2.0 * kKernelCents) {
            sum += histogram[static_cast<std::size_t>(k)] * d;
            square += histogram[static_cast<std::size_t>(k)] * d * d;
            weight += histogram[static_cast<std::size_t>(k)];
        }
    estimate.cents = std::remainder(centre + 0.5 - 50.0 + sum / weight, 100.0);
    estimate.certainty = weight / total;
    estimate.spread_cents = std::sqrt(square / weight);
    return estimate;
}

} // namespace wirenote
