#include "signal/decay_meter.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

namespace wirenote {
namespace {

constexpr float kFrom_db = 10.0F;
constexpr float kTo_db = 25.0F;
constexpr int kStay = 6;             // frames that a fall lasts; beats come back sooner
constexpr float kAudible_db = 35.0F; // a partial counts when it is this near to the loudest
constexpr float kForget_db = 0.02F;  // a frame, for what counts as the loudest
constexpr float kSilence_db = -100.0F;
constexpr double kLow_hz = 250.0;
constexpr double kHigh_hz = 4000.0;
constexpr double kQuick = 0.2; // share of all falls that are quicker than the one told
constexpr long kFewest = 40;

} // namespace

DecayMeter::DecayMeter() : m_fft(kFft), m_window(kFft), m_samples(kFft) {
    for (int i = 0; i < kFft; ++i)
        m_window[static_cast<std::size_t>(i)] =
            static_cast<float>(0.5 - 0.5 * std::cos(2.0 * std::numbers::pi * (i + 0.5) / kFft));
}

void DecayMeter::add(float sample, double rate_hz) {
    m_rate_hz = rate_hz;
    m_samples[m_next] = sample;
    m_next = (m_next + 1) % kFft;
    if (--m_until_frame == 0) {
        m_until_frame = kHop;
        endFrame();
    }
}

void DecayMeter::follow(Partial& partial, float level_db, float loud_db) {
    if (level_db > partial.peak_db)
        partial = {level_db, 0, 0, 0};
    ++partial.above;
    if (level_db > partial.peak_db - kFrom_db)
        partial.above = 0;
    if (level_db > partial.peak_db - kTo_db) {
        partial.below = 0;
        return;
    }
    if (partial.below++ == 0)
        partial.fall = partial.above;
    if (partial.below < kStay)
        return;
    if (partial.peak_db > loud_db - kAudible_db && partial.peak_db - kTo_db > kSilence_db)
        ++m_falls[static_cast<std::size_t>(std::min(partial.fall, kTimes - 1))];
    partial = {level_db, 0, 0, 0};
}

void DecayMeter::endFrame() {
    const auto in = m_fft.time();
    for (std::size_t i = 0; i < kFft; ++i)
        in[i] = m_window[i] * m_samples[(m_next + i) % kFft];
    m_fft.forward();
    const double bin_hz = m_rate_hz / kFft;
    const auto from = static_cast<std::size_t>(kLow_hz / bin_hz);
    const auto to = std::min<std::size_t>(kFft / 2, static_cast<std::size_t>(kHigh_hz / bin_hz));
    m_partials.resize(to > from ? to - from : 0);
    std::vector<float> levels_db(m_partials.size());
    m_loud_db -= kForget_db;
    for (std::size_t b = 0; b < levels_db.size(); ++b) {
        const float power = std::norm(m_fft.spectrum()[from + b]) / (0.0625F * kFft * kFft);
        levels_db[b] = 10.0F * std::log10(power + 1e-15F);
        m_loud_db = std::max(m_loud_db, levels_db[b]);
    }
    for (std::size_t b = 0; b < levels_db.size(); ++b)
        follow(m_partials[b], levels_db[b], m_loud_db);
}

double DecayMeter::quickFall_s() const {
    const long all = std::accumulate(m_falls.begin(), m_falls.end(), 0L);
    if (all < kFewest)
        return -1.0;
    auto left = static_cast<long>(kQuick * static_cast<double>(all));
    std::size_t at = 0;
    while (at + 1 < m_falls.size() && left >= m_falls[at])
        left -= m_falls[at++];
    const double share =
        m_falls[at] > 0 ? static_cast<double>(left) / static_cast<double>(m_falls[at]) : 0.0;
    const double fall_s = (static_cast<double>(at) + share) * kHop / m_rate_hz;
    return fall_s * 60.0 / (kTo_db - kFrom_db);
}

} // namespace wirenote
