#include "signal/quality_meter.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wirenote {
namespace {

constexpr double kLevelStep_db = 5.0;
constexpr double kLevelHop_s = 0.01;
constexpr float kExtreme = 0.98F; // a run of equal samples this near to full scale is clipped

double db(double power) {
    return 10.0 * std::log10(power + 1e-15);
}

double meanOf(const std::vector<double>& v, double from, double to) {
    const auto a = static_cast<std::size_t>(std::max(0.0, from));
    const auto b = std::min(v.size(), static_cast<std::size_t>(std::max(from + 1.0, to)));
    double sum = 0.0;
    for (std::size_t i = a; i < b; ++i)
        sum += v[i];
    return b > a ? sum / static_cast<double>(b - a) : 0.0;
}

} // namespace

QualityMeter::QualityMeter() : m_fft(kFft) {
    m_frame.reserve(kFft);
    for (int i = 0; i < kFft; ++i)
        m_window.push_back(
            static_cast<float>(0.5 - 0.5 * std::cos(2.0 * std::numbers::pi * (i + 0.5) / kFft)));
}

void QualityMeter::add(const std::vector<std::vector<float>>& channels, double rate_hz) {
    if (channels.empty())
        return;
    m_rate_hz = rate_hz;
    m_last.resize(channels.size(), 0.0F);
    const auto hop = std::max(1, static_cast<int>(kLevelHop_s * rate_hz));
    const float share = 1.0F / static_cast<float>(channels.size());
    for (std::size_t i = 0; i < channels.front().size(); ++i) {
        float mono = 0.0F;
        for (std::size_t c = 0; c < channels.size(); ++c) {
            const float v = channels[c][i];
            m_clipped += std::abs(v) >= kExtreme && std::abs(v - m_last[c]) < 1e-5F ? 1.0 : 0.0;
            m_last[c] = v;
            mono += share * v;
        }
        const float left = channels[0][i];
        const float right = channels.size() > 1 ? channels[1][i] : left;
        m_left += static_cast<double>(left) * left;
        m_right += static_cast<double>(right) * right;
        m_mono += 0.25 * static_cast<double>(left + right) * (left + right);
        m_level_sum += static_cast<double>(mono) * mono;
        if (++m_level_count == hop) {
            m_levels_db.push_back(static_cast<float>(db(m_level_sum / hop)));
            m_level_sum = 0.0;
            m_level_count = 0;
        }
        m_decay.add(mono, rate_hz);
        m_frame.push_back(mono);
        if (m_frame.size() == kFft)
            endFrame();
    }
    m_samples += static_cast<double>(channels.size() * channels.front().size());
}

void QualityMeter::endFrame() {
    const auto in = m_fft.time();
    double power = 0.0;
    for (std::size_t i = 0; i < m_frame.size(); ++i) {
        power += static_cast<double>(m_frame[i]) * m_frame[i];
        in[i] = m_frame[i] * m_window[i];
    }
    m_frame.clear();
    m_fft.forward();
    const int level = std::clamp(
        static_cast<int>(-db(power / kFft) / kLevelStep_db), 0, kLevels - 1); // 0: the loudest
    auto& sum = m_spectra[static_cast<std::size_t>(level)];
    sum.resize(kFft / 2 + 1, 0.0);
    for (std::size_t b = 0; b < sum.size(); ++b)
        sum[b] += std::norm(m_fft.spectrum()[b]) / (static_cast<double>(kFft) * kFft);
    ++m_counts[static_cast<std::size_t>(level)];
}

double QualityMeter::percentile(double share) const {
    std::vector<float> sorted = m_levels_db;
    const auto at = static_cast<std::ptrdiff_t>(share * static_cast<double>(sorted.size() - 1));
    std::nth_element(sorted.begin(), sorted.begin() + at, sorted.end());
    return sorted[static_cast<std::size_t>(at)];
}

// The quietest class that is not digital silence.
const std::vector<double>* QualityMeter::quietSpectrum() const {
    for (int level = kLevels - 2; level >= 0; --level)
        if (m_counts[static_cast<std::size_t>(level)] > 0)
            return &m_spectra[static_cast<std::size_t>(level)];
    return nullptr;
}

void QualityMeter::measureNoise(SoundQuality& q) const {
    // Only moments that sound like noise (a flat spectrum) tell the noise; others are music.
    const auto* quiet = quietSpectrum();
    if (!quiet || m_levels_db.size() < 50)
        return;
    const double bin_hz = m_rate_hz / kFft;
    double log_sum = 0.0;
    double sum = 0.0;
    int count = 0;
    for (double hz = 500.0; hz < std::min(6000.0, 0.4 * m_rate_hz); hz += 50.0, ++count) {
        const double p = meanOf(*quiet, hz / bin_hz, (hz + 50.0) / bin_hz) + 1e-18;
        log_sum += std::log(p);
        sum += p;
    }
    const double flatness = std::exp(log_sum / count) / (sum / count);
    const double floor_db = percentile(0.02);
    if (flatness > 0.25 && floor_db > -119.0)
        q.signal_to_noise_db = std::max(0.0, percentile(0.95) - floor_db);
}

void QualityMeter::measureHum(SoundQuality& q) const {
    const auto* quiet = quietSpectrum();
    if (!quiet)
        return;
    const double bin_hz = m_rate_hz / kFft;
    for (const double mains_hz : {50.0, 60.0}) {
        double total = 0.0;
        int heard = 0;
        constexpr int kPartials = 5;
        for (int k = 1; k <= kPartials; ++k) {
            const double at = k * mains_hz / bin_hz;
            double peak = 0.0;
            for (int b = static_cast<int>(at); b <= static_cast<int>(at) + 1; ++b)
                peak = std::max(peak, (*quiet)[static_cast<std::size_t>(b)]);
            const double beside =
                0.5 * (meanOf(*quiet, at - 7.0, at - 3.0) + meanOf(*quiet, at + 4.0, at + 8.0));
            const double above = std::clamp(db(peak) - db(beside), 0.0, 60.0);
            total += above;
            heard += above > 10.0 ? 1 : 0;
        }
        // A string that rings on has partials too, but not five at the mains' own places.
        if (heard >= 3 && total / kPartials > std::max(q.hum_db, 8.0)) {
            q.hum_db = total / kPartials;
            q.hum_hz = mains_hz;
        }
    }
    q.hum_db = std::max(q.hum_db, 0.0);
}

void QualityMeter::measureTop(SoundQuality& q) const {
    std::vector<double> all(kFft / 2 + 1, 0.0);
    bool any = false;
    for (const auto& spectrum : m_spectra)
        for (std::size_t b = 0; b < spectrum.size(); ++b, any = true)
            all[b] += spectrum[b];
    if (!any)
        return;
    const double bin_hz = m_rate_hz / kFft;
    q.top_hz = 0.5 * m_rate_hz;
    double largest_db = 20.0;
    for (double hz = 3000.0; hz + 1200.0 < 0.5 * m_rate_hz; hz += 100.0) {
        const double below = db(meanOf(all, (hz - 800.0) / bin_hz, hz / bin_hz));
        const double above = db(meanOf(all, (hz + 200.0) / bin_hz, (hz + 1200.0) / bin_hz));
        if (below - above > largest_db) {
            largest_db = below - above;
            q.top_hz = hz;
        }
    }
}

SoundQuality QualityMeter::result() const {
    SoundQuality q;
    if (m_samples <= 0.0)
        return q;
    q.clipped_share = m_clipped / m_samples;
    const double stereo = 0.5 * (m_left + m_right);
    q.mono_loss_db = stereo > 0.0 ? std::clamp(db(stereo) - db(m_mono), 0.0, 60.0) : 0.0;
    measureNoise(q);
    measureHum(q);
    measureTop(q);
    q.reverberation_s = m_decay.quickFall_s();
    return q;
}

} // namespace wirenote
