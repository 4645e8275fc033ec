#include "signal/pulse.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kSlowestBpm = 40.0;
constexpr double kFastestBpm = 220.0;

// Zero mean, unit deviation, lightly smoothed.
std::vector<double> prepared(const std::vector<float>& strength) {
    std::vector<double> x(strength.begin(), strength.end());
    double mean = 0.0;
    for (const double v : x)
        mean += v / static_cast<double>(x.size());
    double variance = 0.0;
    for (double& v : x) {
        v = std::max(0.0, v - mean);
        variance += v * v / static_cast<double>(x.size());
    }
    const double scale = variance > 0.0 ? 1.0 / std::sqrt(variance) : 0.0;
    for (double& v : x)
        v *= scale;
    std::vector<double> smooth(x.size(), 0.0);
    static constexpr double kKernel[] = {0.1, 0.2, 0.4, 0.2, 0.1};
    for (std::size_t i = 2; i + 2 < x.size(); ++i)
        for (std::size_t k = 0; k < 5; ++k)
            smooth[i] += kKernel[k] * x[i + k - 2];
    return smooth;
}

double estimateTempo(const std::vector<double>& x, double hop_s, const PulseParameters& p) {
    double best_score = 0.0;
    double best_lag = 0.0;
    const auto lag_from = static_cast<std::size_t>(60.0 / kFastestBpm / hop_s);
    const auto lag_to =
        std::min(x.size() / 2, static_cast<std::size_t>(60.0 / kSlowestBpm / hop_s));
    const auto correlation = [&x](std::size_t lag) {
        double sum = 0.0;
        for (std::size_t i = 0; i + lag < x.size(); ++i)
            sum += x[i] * x[i + lag];
        return sum / static_cast<double>(x.size() - lag);
    };
    std::vector<double> r(4 * lag_to + 2, 0.0);
    for (std::size_t lag = lag_from; lag < r.size() && lag < x.size() / 2; ++lag)
        r[lag] = correlation(lag);
    for (std::size_t lag = std::max<std::size_t>(1, lag_from); lag + 1 <= lag_to; ++lag) {
        const double bpm = 60.0 / (static_cast<double>(lag) * hop_s);
        const double octaves = std::log2(bpm / p.likeliest_bpm) / p.preference_octaves;
        // A true beat repeats at its multiples too; that sharpens the choice between near lags.
        const double comb = r[lag] + 0.5 * r[2 * lag] + 0.25 * r[4 * lag];
        const double score = comb * std::exp(-0.5 * octaves * octaves);
        if (score > best_score) {
            best_score = score;
            // Refine on the fourth multiple, where one frame is a quarter of the error.
            std::size_t fine = 4 * lag;
            for (std::size_t k = 4 * lag - 3; k <= 4 * lag + 3 && k < r.size(); ++k)
                if (r[k] > r[fine])
                    fine = k;
            best_lag = r[fine] > 0.0 ? static_cast<double>(fine) / 4.0 : static_cast<double>(lag);
        }
    }
    return best_lag > 0.0 ? 60.0 / (best_lag * hop_s) : 0.0;
}

std::vector<std::size_t> beatFrames(const std::vector<double>& x, double period, double tightness) {
    std::vector<double> score(x);
    std::vector<std::ptrdiff_t> back(x.size(), -1);
    const auto nearest = static_cast<std::ptrdiff_t>(std::max(1.0, period / 2.0));
    const auto farthest = static_cast<std::ptrdiff_t>(period * 2.0);
    for (std::ptrdiff_t i = 0; i < static_cast<std::ptrdiff_t>(x.size()); ++i) {
        double best = 0.0; // a beat may start the chain
        for (std::ptrdiff_t gap = nearest; gap <= farthest && gap <= i; ++gap) {
            const double uneven = std::log(static_cast<double>(gap) / period);
            const double candidate =
                score[static_cast<std::size_t>(i - gap)] - tightness * uneven * uneven;
            if (candidate > best) {
                best = candidate;
                back[static_cast<std::size_t>(i)] = i - gap;
            }
        }
        score[static_cast<std::size_t>(i)] += best;
    }
    const std::size_t tail = x.size() - std::min(x.size(), static_cast<std::size_t>(period));
    auto at = std::max_element(score.begin() + static_cast<std::ptrdiff_t>(tail), score.end()) -
              score.begin();
    std::vector<std::size_t> frames;
    for (std::ptrdiff_t i = at; i >= 0; i = back[static_cast<std::size_t>(i)])
        frames.push_back(static_cast<std::size_t>(i));
    std::reverse(frames.begin(), frames.end());
    return frames;
}

} // namespace

Pulse trackPulse(const FluxTrack& flux, const PulseParameters& p) {
    Pulse pulse;
    if (flux.strength.size() < 64)
        return pulse;
    const auto x = prepared(flux.strength);
    pulse.tempo_bpm = p.tempo_bpm ? *p.tempo_bpm : estimateTempo(x, flux.hop_s, p);
    if (pulse.tempo_bpm <= 0.0)
        return pulse;
    for (const std::size_t frame : beatFrames(x, 60.0 / pulse.tempo_bpm / flux.hop_s, p.tightness))
        pulse.beats_s.push_back(flux.timeOf(frame));
    return pulse;
}

} // namespace wirenote
