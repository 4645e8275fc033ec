#include "signal/yin.h"

#include "base/parallel.h"
#include "base/peaks.h"
#include "signal/fft.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr float kShorterPeriod = 0.02F; // clarity that an octave is worth

// The difference function of one stretch of sound, by FFT.
class Difference {
  public:
    Difference(int window, int longest_lag)
        : m_window(window), m_lags(longest_lag), m_a(fftSize(window + longest_lag)),
          m_b(m_a.size()) {}

    // x has window + longest_lag samples. d'[τ], τ = 0..longest_lag, is normalised by its
    // cumulative mean.
    const std::vector<float>& normalised(const float* x) {
        correlate(x);
        m_d.resize(static_cast<std::size_t>(m_lags) + 1);
        double still = 0.0;
        for (int i = 0; i < m_window; ++i)
            still += static_cast<double>(x[i]) * x[i];
        double moving = still;
        double sum = 0.0;
        m_d[0] = 1.0F;
        const auto r = m_a.time();
        const float scale = 1.0F / static_cast<float>(m_a.size());
        for (int lag = 1; lag <= m_lags; ++lag) {
            const double in = x[m_window + lag - 1];
            const double out = x[lag - 1];
            moving += in * in - out * out;
            const double d =
                std::max(0.0, still + moving - 2.0 * r[static_cast<std::size_t>(lag)] * scale);
            sum += d;
            m_d[static_cast<std::size_t>(lag)] =
                sum > 0.0 ? static_cast<float>(d * lag / sum) : 1.0F;
        }
        return m_d;
    }

  private:
    static int fftSize(int least) {
        int size = 16;
        while (size < least)
            size *= 2;
        return size;
    }

    void correlate(const float* x) {
        const auto whole = m_a.time();
        const auto first = m_b.time();
        std::fill(whole.begin(), whole.end(), 0.0F);
        std::fill(first.begin(), first.end(), 0.0F);
        std::copy(x, x + m_window + m_lags, whole.begin());
        std::copy(x, x + m_window, first.begin());
        m_a.forward();
        m_b.forward();
        const auto a = m_a.spectrum();
        const auto b = m_b.spectrum();
        for (std::size_t i = 0; i < a.size(); ++i)
            a[i] *= std::conj(b[i]);
        m_a.inverse();
    }

    int m_window;
    int m_lags;
    RealFft m_a;
    RealFft m_b;
    std::vector<float> m_d;
};

std::vector<PitchCandidate>
dips(const std::vector<float>& d, int shortest, double rate_hz, const YinParameters& p) {
    std::vector<PitchCandidate> found;
    for (std::size_t lag = static_cast<std::size_t>(std::max(2, shortest)); lag + 1 < d.size();
         ++lag) {
        if (d[lag] >= d[lag - 1] || d[lag] > d[lag + 1] || 1.0F - d[lag] < p.least_clarity)
            continue;
        // The vertex of the parabola through the three points around the dip.
        const double left = d[lag - 1];
        const double middle = d[lag];
        const double right = d[lag + 1];
        const double shift = vertexOf(left, middle, right);
        found.push_back({static_cast<float>(rate_hz / (static_cast<double>(lag) + shift)),
                         static_cast<float>(1.0 - (middle - 0.25 * (left - right) * shift))});
    }
    // Every multiple of the period fits a steady tone as well as the period itself: near ties go to
    // the shortest.
    const auto merit = [](const PitchCandidate& c) {
        return c.clarity + kShorterPeriod * std::log2(c.f0_hz);
    };
    std::sort(found.begin(), found.end(), [&merit](const auto& a, const auto& b) {
        return merit(a) > merit(b);
    });
    const auto most = std::min(found.size(), static_cast<std::size_t>(p.most));
    return {found.begin(),
            found.begin() + static_cast<std::ptrdiff_t>(most)}; // and no room for more
}

// What sounds from a sample on; silence after the end.
void putFrom(SoundView sound, std::size_t at, std::vector<float>& stretch) {
    const std::size_t there = std::min(stretch.size(), sound.samples.size() - at);
    std::copy_n(sound.samples.begin() + static_cast<std::ptrdiff_t>(at), there, stretch.begin());
    std::fill(stretch.begin() + static_cast<std::ptrdiff_t>(there), stretch.end(), 0.0F);
}

} // namespace

Result<PitchCandidates>
yinCandidates(SoundView sound, const YinParameters& p, const JobControl& job) {
    const int longest = static_cast<int>(std::ceil(sound.rate_hz / p.lowest_hz)) + 2;
    const int shortest = static_cast<int>(std::floor(sound.rate_hz / p.highest_hz));
    const int window = static_cast<int>(std::ceil(p.periods * sound.rate_hz / p.lowest_hz));
    const int hop = std::max(1, static_cast<int>(std::lround(p.hop_s * sound.rate_hz)));
    const int length = window + longest;

    PitchCandidates track;
    track.hop_s = hop / sound.rate_hz;
    track.first_s = 0.5 * length / sound.rate_hz;
    const std::size_t workers = workerCount();
    std::vector<Difference> differences;
    for (std::size_t w = 0; w < workers; ++w)
        differences.emplace_back(window, longest);
    const auto step = static_cast<std::size_t>(hop);
    track.frames.resize((sound.samples.size() + step - 1) / step);
    constexpr std::size_t kBatch = 512; // frames between two looks at `job`
    for (std::size_t first = 0; first < track.frames.size(); first += kBatch) {
        if (job.cancelRequested())
            return cancelled();
        job.report(static_cast<double>(first * step) / sound.rate_hz, sound.length_s());
        const std::size_t count = std::min(kBatch, track.frames.size() - first);
        inParallel(count, workers, [&](std::size_t worker, std::size_t from, std::size_t to) {
            std::vector<float> stretch(static_cast<std::size_t>(length));
            for (std::size_t frame = first + from; frame < first + to; ++frame) {
                putFrom(sound, frame * step, stretch);
                track.frames[frame] = dips(
                    differences[worker].normalised(stretch.data()), shortest, sound.rate_hz, p);
            }
        });
    }
    return track;
}

} // namespace wirenote
