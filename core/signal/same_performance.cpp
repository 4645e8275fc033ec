#include "signal/same_performance.h"

#include "base/line_fit.h"
#include "base/median.h"

#include <algorithm>
#include <cmath>
#include <span>

namespace wirenote {
namespace {

constexpr double kStep_s = 0.004;
constexpr double kBlur_s = 0.008;     // what the lag of a window may be off, and attacks with it
constexpr double kStrongest = 1.5;    // a loud attack tells no more than this
constexpr std::size_t kOfWindow = 24; // attacks
constexpr std::size_t kWindows = 40;
constexpr std::size_t kLags = 3; // kept of each
constexpr double kOtherLag_s = 0.05;
constexpr double kMostSpeed = 1.06;
constexpr double kSpeedStep = 0.002;  // tried where the speed is another one
constexpr std::size_t kForSpeed = 60; // attacks in the middle that it is tried with
constexpr std::size_t kTried = 400;   // attacks that lines are tried with
constexpr double kPair_s = 0.03;
constexpr double kSame_s = 0.015; // an attack at the same place
constexpr double kLeastShare = 0.6;
constexpr int kFewest = 8;

// Where the copy has attacks, sampled every kStep_s.
class Attacks {
  public:
    explicit Attacks(const std::vector<OnsetPeak>& peaks)
        : m_peaks(peaks),
          m_curve(static_cast<std::size_t>((peaks.back().time_s + 1.0) / kStep_s) + 1) {
        constexpr int kReach = static_cast<int>(3.0 * kBlur_s / kStep_s);
        for (const OnsetPeak& peak : peaks) {
            const auto middle = static_cast<std::ptrdiff_t>(std::lround(peak.time_s / kStep_s));
            for (std::ptrdiff_t i = std::max<std::ptrdiff_t>(0, middle - kReach);
                 i <= middle + kReach && i < std::ssize(m_curve);
                 ++i) {
                const double off = (static_cast<double>(i) * kStep_s - peak.time_s) / kBlur_s;
                m_curve[static_cast<std::size_t>(i)] += static_cast<float>(
                    std::min(kStrongest, peak.strength) * std::exp(-0.5 * off * off));
            }
        }
    }

    double at(double time_s) const {
        const auto i = static_cast<std::ptrdiff_t>(std::lround(time_s / kStep_s));
        return i >= 0 && i < std::ssize(m_curve) ? m_curve[static_cast<std::size_t>(i)] : 0.0;
    }
    double end_s() const { return static_cast<double>(m_curve.size()) * kStep_s; }
    const std::vector<OnsetPeak>& peaks() const { return m_peaks; }

  private:
    const std::vector<OnsetPeak>& m_peaks;
    std::vector<float> m_curve;
};

// How well a line carries attacks onto those of the copy.
double scoreOf(std::span<const OnsetPeak> some, const Attacks& copy, double zero_s, double rate) {
    double sum = 0.0;
    for (const OnsetPeak& peak : some)
        sum += std::min(kStrongest, peak.strength) * copy.at(zero_s + rate * peak.time_s);
    return sum;
}

// A stretch of the recording, and how much later it may stand in the copy.
struct Lag {
    double at_s = 0.0;
    double later_s = 0.0;
};

void bestLags(std::span<const OnsetPeak> window, const Attacks& copy, std::vector<Lag>& out) {
    struct Scored {
        double score;
        double later_s;
    };
    std::vector<Scored> best;
    for (double later_s = -window.back().time_s; later_s < copy.end_s() - window.front().time_s;
         later_s += kStep_s) {
        const double score = scoreOf(window, copy, later_s, 1.0);
        const auto near = std::ranges::find_if(best, [later_s](const Scored& s) {
            return std::abs(s.later_s - later_s) < kOtherLag_s;
        });
        if (near == best.end())
            best.push_back({score, later_s});
        else if (score > near->score)
            *near = {score, later_s};
        std::ranges::sort(best, std::ranges::greater{}, &Scored::score);
        if (best.size() > kLags)
            best.pop_back();
    }
    const double middle_s = 0.5 * (window.front().time_s + window.back().time_s);
    for (const Scored& one : best)
        out.push_back({middle_s, one.later_s});
}

std::vector<Lag>
lagsOf(const std::vector<OnsetPeak>& recording, const Attacks& copy, const JobControl& job) {
    std::vector<Lag> lags;
    const std::span all(recording);
    const std::size_t length = std::min(kOfWindow, all.size());
    const std::size_t count = std::min(kWindows, (all.size() + length - 1) / length);
    for (std::size_t w = 0; w < count && !job.cancelRequested(); ++w) {
        const std::size_t from = count > 1 ? w * (all.size() - length) / (count - 1) : 0;
        bestLags(all.subspan(from, length), copy, lags);
    }
    return lags;
}

std::vector<OnsetPeak> spreadOver(const std::vector<OnsetPeak>& all) {
    std::vector<OnsetPeak> some;
    const std::size_t step = all.size() / kTried + 1;
    for (std::size_t i = 0; i < all.size(); i += step)
        some.push_back(all[i]);
    return some;
}

// The line through two stretches, or through one at the same speed, that carries most.
CopyFit likeliestLine(const std::vector<OnsetPeak>& recording,
                      const Attacks& copy,
                      const std::vector<Lag>& lags,
                      const JobControl& job) {
    const std::vector<OnsetPeak> some = spreadOver(recording);
    const double least_s = 0.3 * (recording.back().time_s - recording.front().time_s);
    CopyFit best;
    double most = -1.0;
    const auto attempt = [&](double zero_s, double rate) {
        if (const double score = scoreOf(some, copy, zero_s, rate); score > most) {
            most = score;
            best.at_zero_s = zero_s;
            best.rate = rate;
        }
    };
    for (const Lag& one : lags) {
        if (job.cancelRequested())
            break;
        attempt(one.later_s, 1.0);
        for (const Lag& other : lags) {
            if (other.at_s - one.at_s < least_s)
                continue;
            const double rate = 1.0 + (other.later_s - one.later_s) / (other.at_s - one.at_s);
            if (rate < kMostSpeed && rate > 1.0 / kMostSpeed)
                attempt(one.later_s + (1.0 - rate) * one.at_s, rate);
        }
    }
    return best;
}

// The copy's attack nearest to a moment; far off where there is none.
double offFrom(const std::vector<OnsetPeak>& peaks, double time_s) {
    const auto after = std::ranges::lower_bound(peaks, time_s, {}, &OnsetPeak::time_s);
    double off = 1e9;
    if (after != peaks.end())
        off = after->time_s - time_s;
    if (after != peaks.begin() && std::abs((after - 1)->time_s - time_s) < std::abs(off))
        off = (after - 1)->time_s - time_s;
    return off;
}

// The middle of the recording at every speed and every lag.
CopyFit
otherSpeed(const std::vector<OnsetPeak>& recording, const Attacks& copy, const JobControl& job) {
    const std::size_t length = std::min(kForSpeed, recording.size());
    const auto middle = std::span(recording).subspan((recording.size() - length) / 2, length);
    CopyFit best;
    double most = -1.0;
    for (double rate = 1.0 / kMostSpeed; rate < kMostSpeed; rate += kSpeedStep) {
        if (job.cancelRequested())
            break;
        const double end_s = copy.end_s() - rate * middle.front().time_s;
        for (double zero_s = -rate * middle.back().time_s; zero_s < end_s; zero_s += 2.0 * kStep_s)
            if (const double score = scoreOf(middle, copy, zero_s, rate); score > most) {
                most = score;
                best.at_zero_s = zero_s;
                best.rate = rate;
            }
    }
    return best;
}

// Least squares through the attacks that lie near the line, closer and closer, and farther and
// farther from the middle. The speed is another one only where the attacks say so beyond doubt.
void drawCloser(const std::vector<OnsetPeak>& recording, const Attacks& copy, CopyFit& fit) {
    constexpr double kBeyondDoubt = 5.0; // standard deviations
    constexpr double kOfAttack_s = 0.003;
    const double from_s = recording.front().time_s;
    const double length_s = recording.back().time_s - from_s;
    const double middle_s = from_s + 0.5 * length_s;
    Line line;
    const auto draw = [&](double reach_s, double near_s) {
        LineFit through;
        for (const OnsetPeak& peak : recording) {
            const double there_s = fit.at_zero_s + fit.rate * peak.time_s;
            const double off_s = offFrom(copy.peaks(), there_s);
            if (std::abs(peak.time_s - middle_s) <= reach_s && std::abs(off_s) < near_s)
                through.add(peak.time_s - middle_s, there_s + off_s);
        }
        line = through.line();
        if (!line.fitted)
            return false;
        fit.rate = line.slope;
        fit.at_zero_s = line.at_zero - line.slope * middle_s;
        return true;
    };
    for (double reach_s = 6.0; reach_s < length_s; reach_s *= 2.0)
        draw(reach_s, kPair_s);
    for (const double near_s : {kPair_s, kSame_s, kSame_s})
        if (!draw(length_s, near_s))
            return;
    if (std::abs(fit.rate - 1.0) < kBeyondDoubt * kOfAttack_s * std::sqrt(line.var_slope)) {
        fit.rate = 1.0;
        fit.at_zero_s = line.at_zero - middle_s;
    }
}

// Draws the line as exactly as the attacks tell it, and says whether it is that of a copy.
bool isCopy(const std::vector<OnsetPeak>& recording,
            const Attacks& copy,
            double loosest_s,
            CopyFit& fit) {
    drawCloser(recording, copy, fit);
    int both_could = 0;
    std::vector<double> offs;
    for (const OnsetPeak& peak : recording) {
        const double there_s = fit.at_zero_s + fit.rate * peak.time_s;
        if (there_s < copy.peaks().front().time_s - kPair_s ||
            there_s > copy.peaks().back().time_s + kPair_s)
            continue;
        ++both_could;
        const double off_s = std::abs(offFrom(copy.peaks(), there_s));
        fit.attacks += off_s < kSame_s ? 1 : 0;
        if (off_s < kPair_s)
            offs.push_back(off_s);
    }
    fit.share = both_could > 0 ? static_cast<double>(fit.attacks) / both_could : 0.0;
    constexpr double kDeviation = 1.4826; // of a normal distribution, per median deviation
    fit.spread_s = offs.empty() ? kPair_s : kDeviation * *median(offs);
    return fit.attacks >= kFewest && fit.share >= kLeastShare && fit.spread_s <= loosest_s;
}

} // namespace

std::optional<CopyFit> fitCopy(const std::vector<OnsetPeak>& recording,
                               const std::vector<OnsetPeak>& copy,
                               double loosest_s,
                               const JobControl& job) {
    if (recording.size() < kFewest || copy.size() < kFewest)
        return {};
    const Attacks attacks(copy);
    CopyFit fit = likeliestLine(recording, attacks, lagsOf(recording, attacks, job), job);
    if (job.cancelRequested())
        return {};
    if (isCopy(recording, attacks, loosest_s, fit))
        return fit;
    fit = otherSpeed(recording, attacks, job);
    if (job.cancelRequested() || !isCopy(recording, attacks, loosest_s, fit))
        return {};
    return fit;
}

} // namespace wirenote
