#include "signal/partials.h"

#include "base/line_fit.h"
#include "base/peaks.h"
#include "signal/hann.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kLongest_s = 0.25;
constexpr int kMostPartials = 10;
constexpr double kOutlierCents = 8.0;
constexpr float kFloor =
    -9.0F; // log10 power, relative to the strongest bin, below which nothing is a peak

int fftSizeFor(double rate_hz) {
    int size = 1024;
    while (size < 2.0 * kLongest_s * rate_hz)
        size *= 2;
    return size;
}

struct Measured {
    int n = 1;
    double f_hz = 0.0;
    double weight = 1.0;
};

// Least squares of (f_n/n)² = f0²·(1 + B·n²), linear in n².
PartialFit fit(const std::vector<Measured>& peaks) {
    LineFit points;
    LineFit level; // B = 0: what few peaks tell
    for (const Measured& p : peaks) {
        const double v = (p.f_hz / p.n) * (p.f_hz / p.n);
        points.add(static_cast<double>(p.n) * p.n, v, p.weight);
        level.add(0.0, v, p.weight);
    }
    PartialFit result;
    result.partials = static_cast<int>(peaks.size());
    Line line = points.line();
    if (peaks.size() < 3 || line.slope < 0.0)
        line = level.line();
    const double slope = line.slope;
    const double intercept = line.at_zero;
    result.f0_hz = std::sqrt(std::max(0.0, intercept));
    result.stiffness = intercept > 0.0 ? slope / intercept : 0.0;
    return result;
}

double errorCents(const PartialFit& f, const Measured& p) {
    const double expected = p.n * f.f0_hz * std::sqrt(1.0 + f.stiffness * p.n * p.n);
    return 1200.0 * std::log2(p.f_hz / expected);
}

} // namespace

PartialMeter::PartialMeter(SoundView sound) : m_sound(sound), m_fft(fftSizeFor(sound.rate_hz)) {}

void PartialMeter::transform(TimeRange span) {
    putHann(m_sound,
            static_cast<std::ptrdiff_t>(std::max(0.0, span.start_s) * m_sound.rate_hz),
            static_cast<std::ptrdiff_t>(std::min(span.length_s(), kLongest_s) * m_sound.rate_hz),
            m_fft.time());
    m_fft.forward();
    m_log_level.clear();
    for (const auto& bin : m_fft.spectrum())
        m_log_level.push_back(std::log10(std::norm(bin) + 1e-20F));
}

double PartialMeter::peakNear(double near_hz, double tolerance_hz, double& level) const {
    const double bin_hz = m_sound.rate_hz / m_fft.size();
    const auto from = static_cast<std::size_t>(std::max(1.0, (near_hz - tolerance_hz) / bin_hz));
    const auto to = static_cast<std::size_t>((near_hz + tolerance_hz) / bin_hz) + 1;
    if (to + 1 >= m_log_level.size() || from >= to)
        return 0.0;
    const auto best = highestPeak(m_log_level, from, to);
    if (!best)
        return 0.0;
    level = m_log_level[*best];
    return (static_cast<double>(*best) +
            vertexOf(m_log_level[*best - 1], level, m_log_level[*best + 1])) *
           bin_hz;
}

PartialFit PartialMeter::measure(TimeRange span, double f0_hz) {
    transform(span);
    const float strongest = *std::max_element(m_log_level.begin(), m_log_level.end());
    // Main lobe of a Hann window: four bins of the unpadded transform.
    const double resolution_hz = 2.0 / std::min(span.length_s(), kLongest_s);
    PartialFit current{f0_hz, 0.0, 0, 0.0};
    std::vector<Measured> peaks;
    for (int n = 1; n <= kMostPartials; ++n) {
        const double expected = n * current.f0_hz * std::sqrt(1.0 + current.stiffness * n * n);
        const double tolerance =
            std::min(0.45 * f0_hz, std::max(0.5 * resolution_hz, expected * 0.02));
        double level = 0.0;
        const double found = peakNear(expected, tolerance, level);
        if (found <= 0.0 || level < strongest + kFloor)
            continue;
        // Cents shrink with frequency for the same error in hertz: weight by n, and by how far the
        // peak stands out.
        peaks.push_back({n, found, n * std::max(0.1, level - strongest - kFloor)});
        if (peaks.size() >= 3)
            current = fit(peaks);
    }
    if (peaks.empty())
        return {};
    current = fit(peaks);
    std::vector<Measured> kept;
    for (const Measured& p : peaks)
        if (std::abs(errorCents(current, p)) < kOutlierCents)
            kept.push_back(p);
    if (kept.empty())
        return {};
    current = fit(kept);
    double sum = 0.0;
    for (const Measured& p : kept)
        sum += errorCents(current, p) * errorCents(current, p);
    current.residual_cents = std::sqrt(sum / static_cast<double>(kept.size()));
    return current;
}

} // namespace wirenote
