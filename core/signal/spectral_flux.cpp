#include "signal/spectral_flux.h"

#include "base/median.h"
#include "base/nearby.h"
#include "base/parallel.h"
#include "signal/fft.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wirenote {
namespace {

struct Band {
    std::size_t first_bin = 0;
    std::vector<float> weights;
};

// Triangles, evenly spaced on the pitch axis, at least one bin wide.
std::vector<Band> triangles(const FluxParameters& p, double rate_hz, int fft_size) {
    const double bin_hz = rate_hz / fft_size;
    const double step = std::exp2(1.0 / p.bands_per_octave);
    const double top = std::min(p.highest_hz, 0.48 * rate_hz);
    std::vector<Band> bands;
    std::size_t last_centre = 0;
    for (double centre = p.lowest_hz; centre < top; centre *= step) {
        const auto centre_bin = static_cast<std::size_t>(std::lround(centre / bin_hz));
        if (centre_bin == last_centre)
            continue;
        last_centre = centre_bin;
        const double low = std::min(centre / step, centre - bin_hz);
        const double high = std::max(centre * step, centre + bin_hz);
        Band band;
        band.first_bin = static_cast<std::size_t>(std::max(1.0, std::ceil(low / bin_hz)));
        for (std::size_t b = band.first_bin; static_cast<double>(b) * bin_hz < high; ++b) {
            const double f = static_cast<double>(b) * bin_hz;
            const double w = f < centre ? (f - low) / (centre - low) : (high - f) / (high - centre);
            band.weights.push_back(static_cast<float>(std::max(w, 0.0)));
        }
        bands.push_back(std::move(band));
    }
    return bands;
}

std::vector<float> hann(int size) {
    std::vector<float> window(static_cast<std::size_t>(size));
    for (int i = 0; i < size; ++i)
        window[static_cast<std::size_t>(i)] =
            static_cast<float>(0.5 - 0.5 * std::cos(2.0 * std::numbers::pi * (i + 0.5) / size));
    return window;
}

void bandLevels(
    RealFft& fft, const std::vector<Band>& bands, float scale, float log_gain, float* out) {
    const auto spectrum = fft.spectrum();
    for (std::size_t b = 0; b < bands.size(); ++b) {
        float sum = 0.0F;
        for (std::size_t k = 0; k < bands[b].weights.size(); ++k) {
            const std::size_t bin = bands[b].first_bin + k;
            if (bin < spectrum.size())
                sum += bands[b].weights[k] * std::hypot(spectrum[bin].real(), spectrum[bin].imag());
        }
        out[b] = std::log1p(log_gain * scale * sum);
    }
}

float growth(const float* now, const float* before, std::size_t bands, int widened) {
    float sum = 0.0F;
    for (std::size_t b = 0; b < bands; ++b) {
        float reference = before[b];
        for (int w = 1; w <= widened; ++w) {
            const auto step = static_cast<std::size_t>(w);
            if (b >= step)
                reference = std::max(reference, before[b - step]);
            if (b + step < bands)
                reference = std::max(reference, before[b + step]);
        }
        sum += std::max(0.0F, now[b] - reference);
    }
    return sum;
}

std::vector<TimedValue> strengthsOf(const std::vector<OnsetPeak>& peaks) {
    std::vector<TimedValue> strengths;
    for (const OnsetPeak& peak : peaks)
        strengths.push_back({peak.time_s, peak.strength});
    return strengths;
}

// How strong an attack is among these peaks: never so low that a lone note's own tremor counts.
double typicalOf(std::vector<double>& near, const PeakParameters& p) {
    return std::max(p.least_typical, weightyMedian(near, p.typical_share));
}

// What a peak among these must reach to be an attack: a share of a typical one, and clearly more
// than the tremor of what sounds, which is faint for a clean string and not where distorted strings
// beat against each other.
double leastOf(std::vector<double>& near, const PeakParameters& p) {
    const double typical = typicalOf(near, p);
    std::erase_if(near, [&](double v) { return v > p.tremor_share * typical; });
    return std::max(p.threshold * typical,
                    p.over_tremor * quantile(near, p.tremor_quantile).value_or(0.0));
}

} // namespace

std::size_t FluxTrack::frameAt(double time_s) const {
    const double frame = std::round((time_s - first_s) / hop_s);
    return static_cast<std::size_t>(
        std::clamp(frame, 0.0, static_cast<double>(strength.size() - 1)));
}

namespace {

// What one frame of the flux is made of, in each band and as a whole.
class FluxFrames {
  public:
    FluxFrames(SoundView sound, const FluxParameters& p)
        : m_sound(sound), m_hop(hopOf(sound, p)), m_size(sizeOf(sound, p)), m_fft(m_size),
          m_window(hann(m_size)), m_bands(triangles(p, sound.rate_hz, m_size)),
          m_log_gain(static_cast<float>(p.log_gain)) {}

    static std::ptrdiff_t hopOf(SoundView sound, const FluxParameters& p) {
        return std::max<std::ptrdiff_t>(1, std::lround(p.hop_s * sound.rate_hz));
    }
    static int sizeOf(SoundView sound, const FluxParameters& p) {
        int size = 16;
        while (size < p.window_s * sound.rate_hz)
            size *= 2;
        return size;
    }
    std::size_t bands() const { return m_bands.size(); }

    // Writes the level of each band of the frame about this sample; returns how loud it is, in dB.
    float at(std::ptrdiff_t centre, float* levels) {
        const auto total = static_cast<std::ptrdiff_t>(m_sound.samples.size());
        const auto in = m_fft.time();
        double energy = 0.0;
        for (int i = 0; i < m_size; ++i) {
            const std::ptrdiff_t at = centre - m_size / 2 + i;
            const float x =
                at >= 0 && at < total ? m_sound.samples[static_cast<std::size_t>(at)] : 0.0F;
            if (std::abs(at - centre) < m_hop)
                energy += static_cast<double>(x) * x;
            in[static_cast<std::size_t>(i)] = x * m_window[static_cast<std::size_t>(i)];
        }
        m_fft.forward();
        bandLevels(m_fft, m_bands, 2.0F / static_cast<float>(m_size), m_log_gain, levels);
        return static_cast<float>(
            10.0 * std::log10(energy / (2.0 * static_cast<double>(m_hop) - 1.0) + 1e-12));
    }

  private:
    SoundView m_sound;
    std::ptrdiff_t m_hop;
    int m_size;
    RealFft m_fft;
    std::vector<float> m_window;
    std::vector<Band> m_bands;
    float m_log_gain;
};

} // namespace

Result<FluxTrack> spectralFlux(SoundView sound, const FluxParameters& p, const JobControl& job) {
    constexpr std::size_t kBatch = 512; // frames between two looks at `job`
    const std::size_t workers = workerCount();
    std::vector<FluxFrames> makers;
    for (std::size_t w = 0; w < workers; ++w)
        makers.emplace_back(sound, p);
    const auto hop = static_cast<std::size_t>(FluxFrames::hopOf(sound, p));
    const std::size_t bands = makers.front().bands();
    const auto lag = static_cast<std::size_t>(p.lag_frames);
    const std::size_t frames = (sound.samples.size() + hop - 1) / hop;
    // What sounds when the recording starts did not start then.
    const std::size_t settled =
        (static_cast<std::size_t>(FluxFrames::sizeOf(sound, p)) / 2 + hop - 1) / hop;

    FluxTrack track;
    track.hop_s = static_cast<double>(hop) / sound.rate_hz;
    track.strength.resize(frames);
    track.level_db.resize(frames);
    std::vector<float> levels((lag + kBatch) * bands); // of `lag` frames before, and of a batch
    for (std::size_t first = 0; first < frames; first += kBatch) {
        if (job.cancelRequested())
            return cancelled();
        job.report(static_cast<double>(first * hop) / sound.rate_hz, sound.length_s());
        const std::size_t count = std::min(kBatch, frames - first);
        const auto row = [&](std::size_t frame) { // `lag` before the first of the batch and on
            return levels.data() + (frame + lag - first) * bands;
        };
        inParallel(count, workers, [&](std::size_t worker, std::size_t from, std::size_t to) {
            for (std::size_t k = first + from; k < first + to; ++k)
                track.level_db[k] = makers[worker].at(static_cast<std::ptrdiff_t>(k * hop), row(k));
        });
        for (std::size_t k = first; k < first + count; ++k)
            track.strength[k] =
                k < settled
                    ? 0.0F
                    : growth(
                          row(k), row(k - std::min(lag, k - settled + 1)), bands, p.widened_bands);
        std::copy_n(row(first + count - lag), lag * bands, levels.data());
    }
    return track;
}

namespace {

// Local maxima, by how far they stand over the local median.
std::vector<OnsetPeak> localPeaks(const FluxTrack& flux, double median_window_s) {
    const auto& s = flux.strength;
    const auto around =
        static_cast<std::size_t>(std::max(1.0, std::round(median_window_s / flux.hop_s)));
    std::vector<OnsetPeak> peaks;
    for (std::size_t i = 0; i < s.size(); ++i) {
        const bool rising = i == 0 || s[i] > s[i - 1];
        const bool falling = i + 1 == s.size() || s[i] >= s[i + 1];
        if (!rising || !falling || s[i] <= 0.0F)
            continue;
        const std::size_t from = i > around ? i - around : 0;
        const std::size_t to = std::min(s.size(), i + around + 1);
        std::vector<float> local(s.begin() + static_cast<std::ptrdiff_t>(from),
                                 s.begin() + static_cast<std::ptrdiff_t>(to));
        const double over = s[i] - static_cast<double>(median(local).value_or(0.0F));
        if (over > 0.0)
            peaks.push_back({flux.timeOf(i), over});
    }
    return peaks;
}

double levelAfter(const FluxTrack& flux, double onset_s) {
    constexpr double kAttack_s = 0.06;
    const std::size_t from = flux.frameAt(onset_s);
    const std::size_t to = flux.frameAt(onset_s + kAttack_s);
    return *std::max_element(flux.level_db.begin() + static_cast<std::ptrdiff_t>(from),
                             flux.level_db.begin() + static_cast<std::ptrdiff_t>(to) + 1);
}

// Where a cut from silence lets the noise of a recording begin, everything grows, but hardly to
// anything.
void dropFaint(const FluxTrack& flux, const PeakParameters& p, std::vector<OnsetPeak>& kept) {
    std::vector<TimedValue> levels;
    for (const OnsetPeak& peak : kept)
        levels.push_back({peak.time_s, levelAfter(flux, peak.time_s)});
    const Nearby usual(levels, p.typical_window_s, [](auto& near) { return *quantile(near, 0.5); });
    std::erase_if(kept, [&](const OnsetPeak& peak) {
        return levelAfter(flux, peak.time_s) < usual.at(peak.time_s) - p.faint_db;
    });
}

} // namespace

std::vector<OnsetPeak> pickOnsets(const FluxTrack& flux, const PeakParameters& p) {
    const auto peaks = localPeaks(flux, p.median_window_s);
    const auto strengths = strengthsOf(peaks);
    const Nearby typical(
        strengths, p.typical_window_s, [&p](auto& near) { return typicalOf(near, p); });
    const Nearby least(
        strengths, p.typical_window_s, [&p](auto& near) { return leastOf(near, p); });
    std::vector<OnsetPeak> kept;
    for (OnsetPeak peak : peaks) {
        if (peak.strength < least.at(peak.time_s))
            continue;
        peak.strength /= typical.at(peak.time_s);
        if (!kept.empty() && peak.time_s - kept.back().time_s < p.least_gap_s) {
            if (peak.strength > kept.back().strength)
                kept.back() = peak;
            continue;
        }
        kept.push_back(peak);
    }
    dropFaint(flux, p, kept);
    return kept;
}

} // namespace wirenote
