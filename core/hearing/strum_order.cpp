#include "hearing/strum_order.h"

#include "base/peaks.h"
#include "music/string_physics.h"
#include "signal/fft.h"
#include "signal/hann.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <numbers>
#include <optional>

namespace wirenote {
namespace {

constexpr int kPartials = 16;
constexpr double kLowest_hz = 140.0; // below, a partial's own period hides the moment
constexpr double kHighest_hz = 5000.0;
constexpr double kOwn_hz = 40.0;     // a partial is a note's own this far from all others
constexpr double kStretch_s = 0.025; // before and after, each
constexpr double kStep_s = 0.001;
constexpr std::size_t kFewestPartials = 2;
constexpr double kEarly_s = 0.005;    // the first string against the attack of the whole
constexpr double kQuickest_s = 0.002; // from string to string
constexpr double kSlowest_s = 0.014;
constexpr double kUneven_s = 0.006;
constexpr double kSlowness = 15.0; // what a second from string to string costs a note
constexpr double kSure = 10.0;     // log-odds for each unit that one way round fits better

std::vector<double> partialsOf(const StrokeNote& note) {
    std::vector<double> hz;
    for (int k = 1; k <= kPartials; ++k)
        if (const double f = partial_hz(note.f0_hz, note.stiffness, k); f < kHighest_hz)
            hz.push_back(f);
    return hz;
}

// The partials of a note that are its own; of a note that has too few, those furthest from others.
std::vector<double> ownPartials(const std::vector<std::vector<double>>& all, std::size_t note) {
    std::vector<std::pair<double, double>> apart; // distance to the nearest other, frequency
    for (const double f : all[note]) {
        double nearest = 1e9;
        for (std::size_t other = 0; other < all.size(); ++other)
            for (const double g : all[other])
                if (other != note)
                    nearest = std::min(nearest, std::abs(f - g));
        if (f >= kLowest_hz)
            apart.emplace_back(nearest, f);
    }
    std::sort(apart.rbegin(), apart.rend());
    std::vector<double> own;
    for (const auto& [distance, f] : apart)
        if (distance >= kOwn_hz || (own.size() < kFewestPartials && distance > 0.4 * kOwn_hz))
            own.push_back(f);
    return own;
}

// Where partials really lie: a string's stiffness is not known well enough for its upper ones.
class PartialFinder {
  public:
    PartialFinder(SoundView sound, double from_s) : m_rate_hz(sound.rate_hz) {
        RealFft fft(kFft);
        putHann(sound,
                static_cast<std::ptrdiff_t>(from_s * sound.rate_hz),
                static_cast<std::ptrdiff_t>(kLook_s * sound.rate_hz),
                fft.time());
        fft.forward();
        for (const auto& bin : fft.spectrum())
            m_power.push_back(static_cast<double>(std::norm(bin)) + 1e-20);
    }

    // The strongest peak about `hz`, by a parabola through the log spectrum; `hz` itself when there
    // is none.
    double near(double hz) const {
        const double reach_hz = kReach_hz + kReachShare * hz;
        const double bin_hz = m_rate_hz / kFft;
        const auto first = static_cast<std::size_t>(std::max(1.0, (hz - reach_hz) / bin_hz));
        const auto last = static_cast<std::size_t>((hz + reach_hz) / bin_hz) + 1;
        const auto best =
            last + 1 < m_power.size() ? highestPeak(m_power, first + 1, last - 1) : std::nullopt;
        if (!best || m_power[first] >= m_power[*best] || m_power[last] > m_power[*best])
            return hz;
        return (static_cast<double>(*best) + vertexOf(std::log(m_power[*best - 1]),
                                                      std::log(m_power[*best]),
                                                      std::log(m_power[*best + 1]))) *
               bin_hz;
    }

  private:
    static constexpr int kFft = 4096;
    static constexpr double kLook_s = 0.1;
    static constexpr double kReach_hz = 4.0;
    static constexpr double kReachShare = 0.004;

    double m_rate_hz;
    std::vector<double> m_power;
};

using Course = std::vector<std::complex<float>>;

// The sound about one frequency, brought down to zero, in means of one step.
Course broughtDown(SoundView sound, double hz, double from_s, std::size_t steps) {
    const double step = kStep_s * sound.rate_hz;
    const std::complex<double> turn = std::polar(1.0, -2.0 * std::numbers::pi * hz / sound.rate_hz);
    Course course(steps);
    for (std::size_t k = 0; k < steps; ++k) {
        const double start = from_s * sound.rate_hz + static_cast<double>(k) * step;
        const auto first = static_cast<std::ptrdiff_t>(std::floor(start));
        const auto last = static_cast<std::ptrdiff_t>(std::floor(start + step));
        std::complex<double> phase =
            std::polar(1.0,
                       std::remainder(-2.0 * std::numbers::pi * hz * static_cast<double>(first) /
                                          sound.rate_hz,
                                      2.0 * std::numbers::pi));
        std::complex<double> sum = 0.0;
        for (std::ptrdiff_t i = first; i < last; ++i) {
            if (i >= 0 && i < static_cast<std::ptrdiff_t>(sound.samples.size()))
                sum += static_cast<double>(sound.samples[static_cast<std::size_t>(i)]) * phase;
            phase *= turn;
        }
        course[k] = std::complex<float>(sum / step);
    }
    return course;
}

// How much the partial changes at each step, between the stretch before and the stretch after.
std::vector<float> changeOf(const Course& course, std::size_t stretch) {
    std::vector<float> window(stretch);
    for (std::size_t i = 0; i < stretch; ++i)
        window[i] = static_cast<float>(
            (1.0 - std::cos(2.0 * std::numbers::pi * (static_cast<double>(i) + 0.5) /
                            static_cast<double>(stretch))) /
            static_cast<double>(stretch));
    std::vector<float> change(course.size() - 2 * stretch, 0.0F);
    for (std::size_t at = 0; at < change.size(); ++at) {
        std::complex<float> difference = 0.0F;
        for (std::size_t i = 0; i < stretch; ++i)
            difference += window[i] * (course[at + stretch + i] - course[at + i]);
        change[at] = std::abs(difference);
    }
    return change;
}

// How clearly each note begins at each step: one row a note, each with a mean of nought.
std::vector<std::vector<double>> beginnings(SoundView sound,
                                            const std::vector<StrokeNote>& notes,
                                            double from_s,
                                            std::size_t span,
                                            PartialFinder& finder) {
    const auto stretch = static_cast<std::size_t>(std::lround(kStretch_s / kStep_s));
    std::vector<std::vector<double>> partials;
    for (const StrokeNote& note : notes)
        partials.push_back(partialsOf(note));
    std::vector<std::vector<double>> rows;
    for (std::size_t n = 0; n < notes.size(); ++n) {
        std::vector<double> row(span, 0.0);
        for (const double expected_hz : ownPartials(partials, n)) {
            const double hz = finder.near(expected_hz);
            const auto change =
                changeOf(broughtDown(sound, hz, from_s - kStretch_s, span + 2 * stretch), stretch);
            const float most = *std::max_element(change.begin(), change.end());
            if (most <= 0.0F)
                continue;
            for (std::size_t i = 0; i < span; ++i) // strong partials count for more, not for all
                row[i] += change[i] / std::sqrt(most);
        }
        double mean = 0.0;
        for (const double v : row)
            mean += v / static_cast<double>(span);
        for (double& v : row)
            v = mean > 0.0 ? v / mean - 1.0 : 0.0;
        rows.push_back(std::move(row));
    }
    return rows;
}

// How well each note begins where an even stroke would have it: at start_s + step_s · its place in
// the stroke, from the thick or the thin side.
class EvenStroke {
  public:
    EvenStroke(const std::vector<std::vector<double>>& rows, double from_s, std::size_t span)
        : m_rows(rows), m_from_s(from_s), m_span(span), m_count(static_cast<double>(rows.size())) {}

    double rank(std::size_t note, bool up) const {
        return up ? m_count - 1.0 - static_cast<double>(note) : static_cast<double>(note);
    }
    double value(double start_s, double step_s, bool up) const {
        double sum = -kSlowness * step_s * m_count;
        for (std::size_t n = 0; n < m_rows.size(); ++n) {
            const auto at = static_cast<std::size_t>(
                std::max(0L, std::lround((start_s + step_s * rank(n, up) - m_from_s) / kStep_s)));
            sum += at < m_span ? m_rows[n][at] : 0.0;
        }
        return sum;
    }
    // The note's own beginning, within a few milliseconds of its place on the even line.
    double beginning_s(std::size_t note, double line_s) const {
        double at_s = line_s;
        double most = -1e9;
        for (double t = line_s - kUneven_s; t <= line_s + kUneven_s; t += kStep_s) {
            const auto at = std::lround((t - m_from_s) / kStep_s);
            if (at < 0 || at >= static_cast<long>(m_span))
                continue;
            const double off = (t - line_s) / kUneven_s;
            const double value = m_rows[note][static_cast<std::size_t>(at)] - 0.3 * off * off;
            if (value > most) {
                most = value;
                at_s = t;
            }
        }
        return at_s;
    }

  private:
    const std::vector<std::vector<double>>& m_rows;
    double m_from_s;
    std::size_t m_span;
    double m_count;
};

} // namespace

StrokeOrder strokeOrder(SoundView sound,
                        const std::vector<StrokeNote>& notes,
                        double first_s,
                        double clear_s,
                        double last_s) {
    const double from_s = first_s - kEarly_s;
    const auto span = static_cast<std::size_t>(std::lround((last_s - from_s) / kStep_s)) + 1;
    StrokeOrder order;
    PartialFinder finder(sound, clear_s);
    const auto rows = beginnings(sound, notes, from_s, span, finder);
    const auto count = static_cast<double>(notes.size());
    // The pick moves evenly, from either side.
    const EvenStroke even(rows, from_s, span);
    double best[2] = {-1e9, -1e9};
    double best_step_s = 0.0;
    double best_start_s = first_s;
    const double slowest_s = std::max(kSlowest_s, 1.2 * (clear_s - first_s) / (count - 1.0));
    for (double step_s = kQuickest_s; step_s <= slowest_s; step_s += 0.001)
        for (const bool up : {false, true})
            for (double start_s = from_s; start_s <= first_s + kEarly_s; start_s += kStep_s) {
                const double value = even.value(start_s, step_s, up);
                if (value > std::max(best[0], best[1])) {
                    best_start_s = start_s;
                    best_step_s = up ? -step_s : step_s;
                }
                best[up ? 1 : 0] = std::max(best[up ? 1 : 0], value);
            }
    order.upward = best_step_s < 0.0;
    order.probability = 1.0 / (1.0 + std::exp(-kSure * std::abs(best[0] - best[1]) / count));
    for (std::size_t n = 0; n < notes.size(); ++n)
        order.onsets_s.push_back(
            even.beginning_s(n, best_start_s + std::abs(best_step_s) * even.rank(n, order.upward)));
    return order;
}

} // namespace wirenote
