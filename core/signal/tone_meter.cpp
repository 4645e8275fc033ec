#include "signal/tone_meter.h"

#include "base/line_fit.h"
#include "base/median.h"
#include "signal/hann.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace wirenote {
namespace {

constexpr int kFft = 4096;
constexpr int kMostPartials = 24;
constexpr double kHighest_hz = 9500.0;
constexpr double kLongest_s = 0.8;
constexpr double kShortest_s = 0.12;
constexpr double kHop_s = 0.015;
constexpr double kWindow_s = 0.05;
constexpr double kWindowAmong_s = 0.08; // other strings are kept apart by a longer one
constexpr double kPeriods = 4.0;        // a window holds at least so many
constexpr double kClear_db = 9.0;       // above what lies between the partials
constexpr double kMostFall_db = 25.0;
constexpr double kUnderStrongest_db = 55.0;
constexpr std::size_t kFewestFrames = 5;
constexpr double kReading_db = 0.25;    // no level is read more exactly
constexpr double kLeastLoss_db_s = 0.5; // a string that dies more slowly was not measured
constexpr double kMostLoss_sd = 0.5;    // of the logarithm
constexpr int kHighPartial = 6;
constexpr int kFewestForComb = 7;
constexpr int kCombPartials = 16;
constexpr double kCombFloor = 0.06; // a node is never so deep: width of the pick, two planes
constexpr double kStrength_sd_db = 5.0;
constexpr double kLeastStrength_sd_db = 2.5;
constexpr double kUsualTilt =
    -8.0; // dB an octave: a pluck has 6, its width and the sound's way more
constexpr double kTilt_sd = 4.0;
constexpr double kOnePlace = 0.15; // as a logarithm: places as near as this are one
constexpr double kLeastShare = 0.9;
constexpr double kLeastComb_sd = 0.02;

// A line with how far the points lie from it: RMS, weighted. Weights are 1/variance.
struct ScatteredLine : Line {
    double scatter = 0.0;
};

ScatteredLine
fitLine(std::span<const double> x, std::span<const double> y, std::span<const double> weight) {
    LineFit fit;
    for (std::size_t i = 0; i < x.size(); ++i)
        fit.add(x[i], y[i], weight[i]);
    ScatteredLine line{fit.line()};
    if (!line.fitted)
        return {};
    double off = 0.0;
    double all = 0.0;
    for (std::size_t i = 0; i < x.size(); ++i) {
        off += weight[i] * (y[i] - line.at(x[i])) * (y[i] - line.at(x[i]));
        all += weight[i];
    }
    line.scatter = std::sqrt(off / all);
    return line;
}

Measure logOf(double rate, double variance, double least_sd) {
    const double sd = std::sqrt(variance) / std::max(rate, 1e-9);
    if (rate < kLeastLoss_db_s || sd > kMostLoss_sd)
        return {};
    return {std::log(rate), std::max(sd, least_sd)};
}

// The loss of partial n is c + d·n².
void tellDecay(std::span<const double> n2,
               std::span<const double> loss,
               std::vector<double> weight,
               ToneFit& fit) {
    constexpr double kLeast_sd = 0.03;
    if (n2.size() < 2)
        return;
    ScatteredLine line = fitLine(n2, loss, weight);
    std::vector<double> robust = weight;
    for (int round = 0; round < 5 && line.fitted; ++round) {
        for (std::size_t i = 0; i < n2.size(); ++i) { // beating partials are off
            const double z2 = weight[i] * (loss[i] - line.at(n2[i])) * (loss[i] - line.at(n2[i]));
            robust[i] = weight[i] / (1.0 + z2 / 6.0);
        }
        line = fitLine(n2, loss, robust);
    }
    if (!line.fitted)
        return;
    double used = 0.0;
    double chi2 = 0.0;
    for (std::size_t i = 0; i < n2.size(); ++i) {
        used += robust[i] / weight[i];
        chi2 += robust[i] * (loss[i] - line.at(n2[i])) * (loss[i] - line.at(n2[i]));
    }
    const double inflate = std::max(1.0, chi2 / std::max(1.0, used - 2.0));
    fit.decay_low = logOf(line.at(1.0), inflate * line.varAt(1.0), kLeast_sd);
    if (n2.size() >= 3 && n2.back() >= 16.0) {
        constexpr double kHigh2 = kHighPartial * kHighPartial;
        fit.decay_high = logOf(line.at(kHigh2), inflate * line.varAt(kHigh2), kLeast_sd);
    }
}

struct Strength {
    int number = 1;
    double db = 0.0;
    bool heard = true; // false: it is weaker than this
};

// Strengths of partials against the logarithm of their number, under a comb of one place.
class CombFit {
  public:
    explicit CombFit(std::span<const Strength> strengths)
        : m_strengths(strengths), m_level(strengths.size()), m_weight(strengths.size()) {
        for (const Strength& s : strengths)
            m_octaves.push_back(std::log2(s.number));
    }

    // Negative log-likelihood of the place r, when strengths scatter by `scatter_db` (Student's t
    // with four degrees of freedom: body and pickup lift and sink single partials).
    double costOf(double r, double scatter_db) {
        for (std::size_t i = 0; i < m_level.size(); ++i) {
            const double comb = std::abs(std::sin(std::numbers::pi * m_strengths[i].number * r));
            m_level[i] = m_strengths[i].db - 20.0 * std::log10(comb + kCombFloor);
            m_weight[i] = m_strengths[i].heard ? 1.0 : 0.0;
        }
        for (int round = 0; round < 4; ++round) {
            m_line = fitLine(m_octaves, m_level, m_weight);
            for (std::size_t i = 0; i < m_level.size(); ++i)
                if (m_strengths[i].heard)
                    m_weight[i] = 1.0 / (1.0 + squared(i, scatter_db) / 4.0);
        }
        double cost = 0.0;
        for (std::size_t i = 0; i < m_level.size(); ++i)
            cost += 2.5 * std::log1p(squared(i, scatter_db) / 4.0);
        return cost;
    }

    double tilt() const { return m_line.slope; }

    // Of the last place that was tried: the median deviation, as that of a normal distribution.
    double scatter_db() const {
        std::vector<double> off;
        for (std::size_t i = 0; i < m_level.size(); ++i)
            if (m_strengths[i].heard)
                off.push_back(std::abs(m_level[i] - m_line.at(m_octaves[i])));
        return 1.4826 * *median(off);
    }

  private:
    double squared(std::size_t i, double scatter_db) const {
        double z = (m_level[i] - m_line.at(m_octaves[i])) / scatter_db;
        if (!m_strengths[i].heard) // weaker than this: it may well be
            z = std::min(z, 0.0);
        return z * z;
    }

    std::span<const Strength> m_strengths;
    std::vector<double> m_octaves;
    std::vector<double> m_level;
    std::vector<double> m_weight;
    ScatteredLine m_line;
};

void tellComb(std::span<const Strength> strengths, ToneFit& fit) {
    const auto heard = std::ranges::count(strengths, true, &Strength::heard);
    if (heard < kFewestForComb)
        return;
    constexpr int kSteps = 96;
    const double from = std::log(0.05);
    const double to = std::log(0.5);
    const auto place = [&](int k) { return from + (to - from) * k / (kSteps - 1); };
    CombFit comb(strengths);
    int best = 0;
    double least = std::numeric_limits<double>::infinity();
    for (int k = 0; k < kSteps; ++k)
        if (const double cost = comb.costOf(std::exp(place(k)), kStrength_sd_db); cost < least) {
            least = cost;
            best = k;
        }
    comb.costOf(std::exp(place(best)), kStrength_sd_db);
    // Strengths that fit one comb well are read by how well they fit it.
    const double scatter_db =
        std::clamp(1.3 * comb.scatter_db(), kLeastStrength_sd_db, kStrength_sd_db);
    std::vector<double> cost(kSteps);
    std::vector<double> tilt(kSteps);
    for (int k = 0; k < kSteps; ++k) {
        cost[k] = comb.costOf(std::exp(place(k)), scatter_db);
        tilt[k] = comb.tilt();
        const double steep = (tilt[k] - kUsualTilt) / kTilt_sd;
        cost[k] += 0.5 * steep * steep;
    }
    const auto likeliest = std::ranges::min_element(cost);
    const double here = place(static_cast<int>(likeliest - cost.begin()));
    double all = 0.0, near = 0.0, mean = 0.0, square = 0.0, slope = 0.0;
    for (int k = 0; k < kSteps; ++k) {
        const double p = std::exp(*likeliest - cost[k]);
        all += p;
        slope += p * tilt[k];
        if (std::abs(place(k) - here) > kOnePlace)
            continue;
        near += p;
        mean += p * place(k);
        square += p * place(k) * place(k);
    }
    fit.tilt = {slope / all, 8.0 / std::sqrt(static_cast<double>(heard))};
    if (near < kLeastShare * all) // another place is nearly as likely
        return;
    mean /= near;
    fit.comb = {mean,
                std::max(std::sqrt(std::max(0.0, square / near - mean * mean)), kLeastComb_sd)};
}

} // namespace

ToneMeter::ToneMeter(SoundView sound) : m_sound(sound), m_fft(kFft) {}

double ToneMeter::levelAt_db(double f_hz) {
    const auto spectrum = m_fft.spectrum();
    const auto bin = static_cast<std::size_t>(std::lround(f_hz * kFft / m_sound.rate_hz));
    float most = 1e-20F;
    for (std::size_t b = bin > 0 ? bin - 1 : 0; b <= bin + 1 && b < spectrum.size(); ++b)
        most = std::max(most, std::norm(spectrum[b]));
    return 10.0 * std::log10(static_cast<double>(most));
}

// The partials of a note that no other note comes near.
std::vector<ToneMeter::Course> ToneMeter::ownPartials(double f0_hz,
                                                      double stiffness_b,
                                                      std::span<const double> others_hz,
                                                      double apart_hz) const {
    std::vector<Course> own;
    for (int n = 1; n <= kMostPartials; ++n) {
        const double f = n * f0_hz * std::sqrt(1.0 + stiffness_b * n * n);
        if (f > std::min(kHighest_hz, 0.45 * m_sound.rate_hz))
            break;
        const bool taken = std::ranges::any_of(others_hz, [&](double other) {
            return std::abs(f - std::max(1.0, std::round(f / other)) * other) < apart_hz;
        });
        if (!taken)
            own.push_back({n, f, {}, 0.0});
    }
    return own;
}

// Reads the level of each partial window by window, and what lies beside it.
void ToneMeter::readLevels(TimeRange span,
                           double window_s,
                           double f0_hz,
                           std::vector<Course>& partials) {
    for (double t = span.start_s; t + window_s <= span.end_s; t += kHop_s) {
        putHann(m_sound,
                static_cast<std::ptrdiff_t>(t * m_sound.rate_hz),
                static_cast<std::ptrdiff_t>(window_s * m_sound.rate_hz),
                m_fft.time());
        m_fft.forward();
        for (Course& partial : partials) {
            partial.level_db.push_back(levelAt_db(partial.f_hz));
            partial.between_db += levelAt_db(partial.f_hz + 0.5 * f0_hz);
        }
    }
    for (Course& partial : partials)
        partial.between_db /= std::max(1.0, static_cast<double>(partial.level_db.size()));
}

// How one partial dies, as long as it stands clear of what lies beside it.
ToneMeter::Track ToneMeter::trackOf(const Course& partial, double strongest_db, double window_s) {
    const auto& level_db = partial.level_db;
    const double floor_db =
        std::max(partial.between_db + kClear_db, strongest_db - kUnderStrongest_db);
    const double lowest_db = std::max(floor_db, level_db.front() - kMostFall_db);
    std::size_t frames = 0;
    while (frames < level_db.size() && level_db[frames] > lowest_db)
        ++frames;
    Track track{partial.number, level_db.front(), 0.0, -1.0, frames > 0};
    if (frames == 0)
        track.start_db = floor_db;
    if (frames < kFewestFrames)
        return track;
    std::vector<double> times_s(frames);
    for (std::size_t i = 0; i < frames; ++i)
        times_s[i] = static_cast<double>(i) * kHop_s;
    const std::vector<double> even(frames, 1.0);
    const ScatteredLine line = fitLine(times_s, std::span(level_db).first(frames), even);
    // Windows overlap: the frames are fewer than they seem.
    const double alike = std::max(1.0, window_s / kHop_s);
    const double count = static_cast<double>(frames);
    track.loss_db_s = -line.slope;
    track.start_db = line.at_zero + 0.5 * window_s * std::max(0.0, track.loss_db_s);
    track.loss_sd = std::hypot(line.scatter, kReading_db) *
                    std::sqrt(alike * line.var_slope * count / (count - 2.0));
    return track;
}

std::vector<ToneMeter::Track> ToneMeter::follow(TimeRange span,
                                                double f0_hz,
                                                double stiffness_b,
                                                std::span<const double> others_hz) {
    const double window_s =
        std::min(std::max(others_hz.empty() ? kWindow_s : kWindowAmong_s, kPeriods / f0_hz),
                 kFft / m_sound.rate_hz);
    auto partials = ownPartials(f0_hz, stiffness_b, others_hz, 1.6 / window_s);
    readLevels(span, window_s, f0_hz, partials);
    std::vector<Track> tracks;
    if (partials.empty() || partials.front().level_db.size() < kFewestFrames)
        return tracks;
    double strongest_db = -300.0;
    for (const Course& partial : partials)
        strongest_db = std::max(strongest_db, partial.level_db.front());
    for (const Course& partial : partials)
        tracks.push_back(trackOf(partial, strongest_db, window_s));
    return tracks;
}

ToneFit ToneMeter::measure(TimeRange span,
                           double f0_hz,
                           double stiffness_b,
                           std::span<const double> others_hz) {
    ToneFit fit;
    span.end_s = std::min(span.end_s, span.start_s + kLongest_s);
    if (span.length_s() < kShortest_s || f0_hz <= 0.0)
        return fit;
    const auto tracks = follow(span, f0_hz, stiffness_b, others_hz);
    std::vector<double> n2, loss, weight;
    std::vector<Strength> strengths;
    for (const Track& track : tracks) {
        if (track.number <= kCombPartials)
            strengths.push_back({track.number, track.start_db, track.heard});
        if (track.loss_sd >= 0.0) {
            n2.push_back(static_cast<double>(track.number) * track.number);
            loss.push_back(track.loss_db_s);
            // A partial whose two planes beat dies faster or more slowly by a good part.
            const double sd = std::hypot(track.loss_sd, 0.08 * std::abs(track.loss_db_s));
            weight.push_back(1.0 / (sd * sd));
        }
    }
    tellDecay(n2, loss, weight, fit);
    tellComb(strengths, fit);
    return fit;
}

} // namespace wirenote
