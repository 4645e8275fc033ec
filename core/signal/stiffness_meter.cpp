#include "signal/stiffness_meter.h"

#include "base/line_fit.h"
#include "base/median.h"
#include "base/peaks.h"
#include "signal/hann.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr double kLongest_s = 0.4;
constexpr double kShortest_s = 0.06;
constexpr int kFft = 32768;
constexpr int kMostPartials = 30;
constexpr double kHighest_hz = 9000.0;
constexpr float kUnderStrongest_db = 75.0F;
constexpr double kClear_db = 9.0; // above what lies beside a peak
constexpr double kLeastScatter_hz =
    0.02;                           // no peak is read more exactly than this, in hertz a partial
constexpr double kRoughness = 3e-5; // nor is a string this even: relative to the frequency
constexpr std::size_t kFewest = 4;
constexpr double kMostScatter = 12.0; // of the partials, against what reading them allows
constexpr double kLeastShare = 0.4;   // of them must agree
constexpr double kTukey = 4.7;
constexpr double kLeastB = 3e-6;

// (f_n/n)² = at_zero + slope·n²
Line fitLine(const std::vector<Partial>& partials, const std::vector<double>& sigma) {
    LineFit fit;
    for (std::size_t i = 0; i < partials.size(); ++i) {
        const Partial& p = partials[i];
        fit.add(static_cast<double>(p.number) * p.number,
                (p.f_hz / p.number) * (p.f_hz / p.number),
                p.weight / (sigma[i] * sigma[i]));
    }
    return fit.line();
}

// Standard deviation of (f_n/n)² for a peak read to within `reading_hz`.
double sigmaOf(const Partial& p, double reading_hz) {
    const double f_sd = std::hypot(reading_hz, kRoughness * p.f_hz);
    return 2.0 * p.f_hz / (static_cast<double>(p.number) * p.number) * f_sd;
}

// The line through the partials that agree with each other (Tukey's biweight); weighs them.
Line lineThrough(std::vector<Partial>& partials, const std::vector<double>& sigma, double& scale) {
    Line line = fitLine(partials, sigma);
    scale = 1.0;
    for (int round = 0; round < 12; ++round) {
        std::vector<double> off;
        for (std::size_t i = 0; i < partials.size(); ++i) {
            const Partial& p = partials[i];
            const double v = (p.f_hz / p.number) * (p.f_hz / p.number);
            off.push_back(std::abs(v - line.at_zero - line.slope * p.number * p.number) / sigma[i]);
        }
        scale = std::max(1.0, 1.4826 * *median(std::vector(off)));
        for (std::size_t i = 0; i < off.size(); ++i) {
            const double u = off[i] / (kTukey * scale);
            partials[i].weight = u < 1.0 ? (1.0 - u * u) * (1.0 - u * u) : 0.0;
        }
        line = fitLine(partials, sigma);
    }
    return line;
}

} // namespace

StiffnessMeter::StiffnessMeter(SoundView sound) : m_sound(sound), m_fft(kFft) {}

void StiffnessMeter::transform(TimeRange span) {
    putHann(m_sound,
            static_cast<std::ptrdiff_t>(span.start_s * m_sound.rate_hz),
            static_cast<std::ptrdiff_t>(span.length_s() * m_sound.rate_hz),
            m_fft.time());
    m_fft.forward();
    m_power.clear();
    for (const auto& bin : m_fft.spectrum())
        m_power.push_back(std::norm(bin) + 1e-20F);
    m_floor_db = static_cast<float>(10.0 * std::log10(*std::ranges::max_element(m_power))) -
                 kUnderStrongest_db;
    m_resolution_hz = 2.0 / span.length_s(); // half the main lobe of a Hann window
}

double StiffnessMeter::levelAt_db(std::size_t bin) const {
    return bin < m_power.size() ? 10.0 * std::log10(static_cast<double>(m_power[bin]))
                                : static_cast<double>(m_floor_db);
}

double StiffnessMeter::peakNear(double near_hz, double tolerance_hz, double& level_db) const {
    const double bin_hz = m_sound.rate_hz / kFft;
    const auto from = static_cast<std::size_t>(std::max(1.0, (near_hz - tolerance_hz) / bin_hz));
    const auto to = static_cast<std::size_t>((near_hz + tolerance_hz) / bin_hz) + 1;
    if (to + 1 >= m_power.size() || from >= to)
        return 0.0;
    const auto peak = highestPeak(m_power, from, to);
    if (!peak)
        return 0.0;
    const std::size_t best = *peak;
    const auto aside = static_cast<std::size_t>(1.6 * m_resolution_hz / bin_hz);
    const double left_side =
        best > aside ? levelAt_db(best - aside) : static_cast<double>(m_floor_db);
    level_db = levelAt_db(best);
    if (level_db < m_floor_db ||
        level_db < std::min(left_side, levelAt_db(best + aside)) + kClear_db)
        return 0.0;
    return (static_cast<double>(best) +
            vertexOf(levelAt_db(best - 1), level_db, levelAt_db(best + 1))) *
           bin_hz;
}

// Another string's partials are sharper than whole multiples, by an unknown little.
bool StiffnessMeter::ofOthers(double f, std::span<const double> others_hz) const {
    return std::ranges::any_of(others_hz, [&](double other) {
        const double n = std::round(f / other);
        const double spread = 0.6 * m_resolution_hz + 2e-5 * n * n * f;
        return n >= 1.0 && std::abs(f - n * other) < spread;
    });
}

// The partials one after the other, each sought where those before it say.
std::vector<double> StiffnessMeter::findPartials(StiffnessFit& fit,
                                                 std::span<const double> others_hz) {
    double a = fit.f0_hz * fit.f0_hz;
    double b = 3e-5 * a;
    std::vector<double> sigma;
    for (int n = 1; n <= kMostPartials; ++n) {
        const double n2 = static_cast<double>(n) * n;
        const double expected = n * std::sqrt(std::max(0.2 * a, a + b * n2));
        if (expected > kHighest_hz || expected > 0.45 * m_sound.rate_hz)
            break;
        const double tolerance = std::min(0.4 * fit.f0_hz, 0.7 * m_resolution_hz + 0.004 * expected);
        double level_db = 0.0;
        const double found = ofOthers(expected, others_hz) ? 0.0 : peakNear(expected, tolerance, level_db);
        if (found <= 0.0)
            continue;
        fit.partials.push_back({n, found, 1.0});
        // What stands high above the floor is read more exactly.
        const double clear = std::clamp((level_db - m_floor_db) / kUnderStrongest_db, 0.05, 1.0);
        sigma.push_back(sigmaOf(fit.partials.back(),
                                kLeastScatter_hz + 0.03 * m_resolution_hz * (1.05 - clear)));
        if (fit.partials.size() >= 3) {
            const Line line = fitLine(fit.partials, sigma);
            if (line.at_zero > 0.0 && line.slope > -1e-6 * line.at_zero) {
                a = line.at_zero;
                b = std::max(line.slope, 0.0);
            }
        }
    }
    return sigma;
}

StiffnessFit
StiffnessMeter::measure(TimeRange span, double f0_hz, std::span<const double> others_hz) {
    StiffnessFit fit;
    fit.f0_hz = f0_hz;
    span.end_s = std::min(span.end_s, span.start_s + kLongest_s);
    if (span.length_s() < kShortest_s || f0_hz <= 0.0)
        return fit;
    transform(span);
    const std::vector<double> sigma = findPartials(fit, others_hz);
    if (fit.partials.size() < kFewest)
        return fit;
    double scale = 1.0;
    const Line line = lineThrough(fit.partials, sigma, scale);
    double believed = 0.0;
    for (const Partial& p : fit.partials)
        believed += p.weight;
    // Peaks of noise scatter far more than a string's.
    const bool scattered =
        scale > kMostScatter || believed < kLeastShare * static_cast<double>(fit.partials.size());
    if (believed < static_cast<double>(kFewest) - 0.5 || line.at_zero <= 0.0 || scattered)
        return fit;
    fit.f0_hz = std::sqrt(line.at_zero);
    const double stiffness = line.slope / line.at_zero;
    const double sd_b = scale * std::sqrt(line.var_slope) / line.at_zero *
                        std::sqrt(believed / std::max(1.0, believed - 2.0));
    // Less than any string has: whole multiples, as distortion and combs of other sounds make them.
    if (stiffness < kLeastB || sd_b > stiffness)
        return fit;
    fit.log_b = std::log(stiffness);
    fit.sd = sd_b / stiffness;
    return fit;
}

} // namespace wirenote
