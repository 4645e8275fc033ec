#include "signal/pulse.h"

#include "base/nearby.h"

#include <algorithm>
#include <cmath>
#include <cstdint>

namespace wirenote {
namespace {

constexpr double kSlowestBpm = 40.0;
constexpr double kFastestBpm = 220.0;
constexpr double kLeastTypical = 4.0; // growth that no attack of a usable recording stays below

// The growth in units of what is typical thereabouts, and no more than three of them: a click, a
// shout or the first chord after silence pulls no beat towards it, and a quiet passage counts like
// a loud one.
std::vector<double> evened(const FluxTrack& flux) {
    constexpr double kReach_s = 6.0;
    constexpr double kMost = 3.0;
    std::vector<TimedValue> strengths;
    for (std::size_t i = 0; i < flux.strength.size(); ++i)
        strengths.push_back({flux.timeOf(i), flux.strength[i]});
    const Nearby typical(
        strengths, kReach_s, [](std::vector<double>& near) { return weightyMedian(near); });
    std::vector<double> x;
    for (const TimedValue& s : strengths)
        x.push_back(std::min(kMost, s.value / std::max(kLeastTypical, typical.at(s.time_s))));
    return x;
}

// Zero mean, unit deviation, lightly smoothed.
std::vector<double> prepared(const FluxTrack& flux) {
    std::vector<double> x = evened(flux);
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

// Beats whose distance may drift: each state is a frame with a beat on it and the distance to the
// beat before, on a logarithmic scale about the tempo of the whole.
class DriftingBeats {
  public:
    DriftingBeats(const std::vector<double>& x, double period, const PulseParameters& p)
        : m_x(x), m_p(p) {
        for (int k = -kSteps; k <= kSteps; ++k)
            m_periods.push_back(period * std::exp(k * kStep));
        m_kept = static_cast<std::size_t>(m_periods.back()) + 4;
        m_score.assign(m_kept * m_periods.size(), 0.0F);
        m_reach.assign(m_score.size(), 0.0F);
        m_change.assign(m_score.size(), 0);
        m_back.assign(x.size() * m_periods.size(), kNone);
    }

    std::vector<std::size_t> run() {
        for (std::size_t t = 0; t < m_x.size(); ++t) {
            for (std::size_t k = 0; k < m_periods.size(); ++k)
                extend(t, k);
            reachFrom(t);
        }
        return trace();
    }

  private:
    static constexpr int kSteps = 18;
    static constexpr double kStep = 0.02; // of the period, as a natural logarithm
    static constexpr int kMostChange = 4; // steps from one beat to the next

    // The beat before, from a state: how far off the even distance, and the change of tempo.
    struct Back {
        std::int8_t shake;
        std::int8_t change;
    };
    static constexpr Back kNone{127, 0};

    std::size_t at(std::size_t t, std::size_t k) const { return t * m_periods.size() + k; }
    // Scores are kept no longer than a beat can reach back.
    float& score(std::size_t t, std::size_t k) { return m_score[at(t % m_kept, k)]; }
    std::ptrdiff_t before(std::size_t t, std::size_t k) const {
        return static_cast<std::ptrdiff_t>(t) -
               static_cast<std::ptrdiff_t>(std::lround(m_periods[k]));
    }

    void extend(std::size_t t, std::size_t k) {
        const double away = static_cast<double>(static_cast<int>(k) - kSteps) * kStep;
        double best = 0.0; // a beat may start the chain
        Back from = kNone;
        for (std::ptrdiff_t shake = -2; shake <= 2; ++shake) {
            const std::ptrdiff_t frame = before(t, k) + shake;
            if (frame < 0 || frame >= static_cast<std::ptrdiff_t>(t))
                continue;
            const auto slot = at(static_cast<std::size_t>(frame) % m_kept, k);
            const double candidate = m_reach[slot] - m_p.shaky * static_cast<double>(shake * shake);
            if (candidate > best) {
                best = candidate;
                from = {static_cast<std::int8_t>(shake), m_change[slot]};
            }
        }
        score(t, k) = static_cast<float>(m_x[t] + best - m_p.tightness * away * away);
        m_back[at(t, k)] = from;
    }

    // What the next beat gets from this frame when its period is the k-th.
    void reachFrom(std::size_t t) {
        for (int k = 0; k < static_cast<int>(m_periods.size()); ++k) {
            const std::size_t slot = at(t % m_kept, static_cast<std::size_t>(k));
            m_reach[slot] = -1e9F;
            for (int change = -kMostChange; change <= kMostChange; ++change) {
                const int other = k + change;
                if (other < 0 || other >= static_cast<int>(m_periods.size()))
                    continue;
                const auto reach = static_cast<float>(score(t, static_cast<std::size_t>(other)) -
                                                      m_p.unsteady * change * change);
                if (reach > m_reach[slot]) {
                    m_reach[slot] = reach;
                    m_change[slot] = static_cast<std::int8_t>(change);
                }
            }
        }
    }

    std::vector<std::size_t> trace() {
        // The best of the last beat's length; all of it is still kept.
        const std::size_t last = m_x.size() - 1;
        std::size_t t = last;
        std::size_t k = 0;
        for (std::size_t i = last - std::min(last, m_kept - 4); i <= last; ++i)
            for (std::size_t p = 0; p < m_periods.size(); ++p)
                if (score(i, p) > score(t, k)) {
                    t = i;
                    k = p;
                }
        std::vector<std::size_t> frames{t};
        for (Back from = m_back[at(t, k)]; from.shake != kNone.shake; from = m_back[at(t, k)]) {
            t = static_cast<std::size_t>(before(t, k) + from.shake);
            k = static_cast<std::size_t>(static_cast<int>(k) + from.change);
            frames.push_back(t);
        }
        std::reverse(frames.begin(), frames.end());
        return frames;
    }

    const std::vector<double>& m_x;
    const PulseParameters& m_p;
    std::vector<double> m_periods;
    std::size_t m_kept = 0;
    std::vector<float> m_score;
    std::vector<float> m_reach;        // the best of m_score that may come before, by period …
    std::vector<std::int8_t> m_change; // … and the change of tempo it takes
    std::vector<Back> m_back;          // of every state
};

// How strongly the beats of a tracking are marked, and how likely people are to count so.
double merit(const std::vector<double>& x,
             const std::vector<std::size_t>& frames,
             double bpm,
             const PulseParameters& p) {
    double strength = 0.0;
    for (const std::size_t frame : frames)
        strength += x[frame];
    const double octaves = std::log2(bpm / p.likeliest_bpm) / p.preference_octaves;
    return strength / static_cast<double>(std::max<std::size_t>(1, frames.size())) *
           std::exp(-0.5 * octaves * octaves);
}

} // namespace

Pulse trackPulse(const FluxTrack& flux, const PulseParameters& p) {
    Pulse pulse;
    if (flux.strength.size() < 64)
        return pulse;
    const auto x = prepared(flux);
    pulse.tempo_bpm = p.tempo_bpm ? *p.tempo_bpm : estimateTempo(x, flux.hop_s, p);
    if (pulse.tempo_bpm <= 0.0)
        return pulse;
    const auto track = [&](double bpm) {
        return DriftingBeats(x, 60.0 / bpm / flux.hop_s, p).run();
    };
    auto frames = track(pulse.tempo_bpm);
    // Where the tempo swells, its double returns more surely: the beats decide.
    if (const double half = 0.5 * pulse.tempo_bpm; !p.tempo_bpm && half >= kSlowestBpm) {
        auto slower = track(half);
        if (merit(x, slower, half, p) > p.clearly_slower * merit(x, frames, pulse.tempo_bpm, p)) {
            frames = std::move(slower);
            pulse.tempo_bpm = half;
        }
    }
    for (const std::size_t frame : frames)
        pulse.beats_s.push_back(flux.timeOf(frame));
    return pulse;
}

} // namespace wirenote
