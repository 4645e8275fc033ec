#include "signal/align.h"

#include "base/line_fit.h"
#include "base/median.h"
#include "signal/chroma.h"
#include "signal/spectral_flux.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <limits>

namespace wirenote {
namespace {

constexpr double kChance = 0.30;          // likeness that two unlike moments reach easily
constexpr std::size_t kMostCoarse = 6000; // frames a side: bounds memory and time
constexpr int kBand = 45;                 // fine frames on either side of the coarse path
constexpr double kKnot_s = 1.0;
constexpr double kNear_s = 2.5;    // attacks this near decide about a knot
constexpr double kPair_s = 0.09;   // how far an attack may lie from where it is expected
constexpr double kAgree_s = 0.035; // … and how far in the end, to be believed

using Path = std::vector<std::pair<int, int>>;

// Means of `count` frames each.
std::vector<Chroma> coarser(const std::vector<Chroma>& fine, int count) {
    std::vector<Chroma> out;
    for (std::size_t i = 0; i < fine.size(); i += static_cast<std::size_t>(count)) {
        Chroma sum{};
        const std::size_t end = std::min(fine.size(), i + static_cast<std::size_t>(count));
        for (std::size_t j = i; j < end; ++j)
            for (std::size_t k = 0; k < 12; ++k)
                sum[k] += fine[j][k];
        float length = 1e-9F;
        for (const float v : sum)
            length += v * v;
        for (float& v : sum)
            v /= std::sqrt(length);
        out.push_back(sum);
    }
    return out;
}

// The best local alignment: where the summed likeness above chance is largest. Steps keep the
// tempo between half and double.
class LocalAlignment {
  public:
    LocalAlignment(const std::vector<Chroma>& a, const std::vector<Chroma>& b, int semitones)
        : m_a(a), m_b(b), m_semitones(semitones) {}

    double run(Path* path) {
        const std::size_t n = m_a.size();
        const std::size_t w = m_b.size();
        std::vector<std::vector<float>> score(3, std::vector<float>(w, 0.0F));
        std::vector<std::uint8_t> from(path ? n * w : 0, 0);
        float best = 0.0F;
        std::size_t best_at = 0;
        for (std::size_t i = 0; i < n; ++i) {
            auto& now = score[i % 3];
            const auto& one = score[(i + 2) % 3];
            const auto& two = score[(i + 1) % 3];
            for (std::size_t j = 0; j < w; ++j) {
                const auto gain = static_cast<float>(alike(m_a[i], m_b[j], m_semitones) - kChance);
                const auto before = [j](bool there, const std::vector<float>& row, std::size_t k) {
                    return there && j >= k ? row[j - k] : 0.0F;
                };
                const Reached reached = bestStep(
                    gain, before(i >= 1, one, 1), before(i >= 2, two, 1), before(i >= 1, one, 2));
                now[j] = std::max(0.0F, reached.value);
                if (path)
                    from[i * w + j] = reached.value > 0.0F ? reached.step : 0;
                if (now[j] > best) {
                    best = now[j];
                    best_at = i * w + j;
                }
            }
        }
        if (path && best > 0.0F)
            traceBack(from, best_at, *path);
        return best;
    }

  private:
    struct Reached {
        float value = 0.0F;
        std::uint8_t step = 1; // 1 straight on, 2 two of a, 3 two of b
    };
    // From what was reached one back in both, two back in a, two back in b.
    static Reached bestStep(float gain, float straight, float slow, float fast) {
        Reached best{2.0F * gain + straight, 1};
        if (3.0F * gain + slow > best.value)
            best = {3.0F * gain + slow, 2};
        if (3.0F * gain + fast > best.value)
            best = {3.0F * gain + fast, 3};
        return best;
    }

    void traceBack(const std::vector<std::uint8_t>& from, std::size_t at, Path& path) const {
        const auto w = static_cast<std::ptrdiff_t>(m_b.size());
        auto i = static_cast<std::ptrdiff_t>(at) / w;
        auto j = static_cast<std::ptrdiff_t>(at) % w;
        while (i >= 0 && j >= 0) {
            const std::uint8_t step = from[static_cast<std::size_t>(i * w + j)];
            if (step == 0)
                break;
            path.emplace_back(static_cast<int>(i), static_cast<int>(j));
            i -= step == 2 ? 2 : 1;
            j -= step == 3 ? 2 : 1;
        }
        std::reverse(path.begin(), path.end());
    }

    const std::vector<Chroma>& m_a;
    const std::vector<Chroma>& m_b;
    int m_semitones;
};

int bestTransposition(const ChromaTrack& a, const ChromaTrack& b, int coarse) {
    const auto rough_a = coarser(a.sounding, 2 * coarse);
    const auto rough_b = coarser(b.sounding, 2 * coarse);
    int best = 0;
    double best_score = -1.0;
    for (const int s : {0, -1, 1, -2, 2, -3, 3, -4, 4, -5, 5, -6}) {
        const double score =
            LocalAlignment(rough_a, rough_b, s).run(nullptr) * (s == 0 ? 1.1 : 1.0);
        if (score > best_score) {
            best_score = score;
            best = s;
        }
    }
    return best;
}

// b's frame for every frame of a between the ends of the coarse path, by dynamic time warping in a
// band about it.
class BandWarp {
  public:
    BandWarp(const ChromaTrack& a, const ChromaTrack& b, int semitones)
        : m_a(a), m_b(b), m_semitones(semitones) {}

    // `expected[i]` is b's frame for a's frame first + i.
    std::vector<double> run(int first, const std::vector<int>& expected) const {
        const std::size_t n = expected.size();
        constexpr int kWidth = 2 * kBand + 1;
        constexpr float kNever = std::numeric_limits<float>::max() / 4;
        std::vector<float> cost(n * kWidth, kNever);
        std::vector<std::uint8_t> from(n * kWidth, 0);
        const auto cell = [](std::size_t i, int k) {
            return i * kWidth + static_cast<std::size_t>(k);
        };
        for (std::size_t i = 0; i < n; ++i)
            for (int k = 0; k < kWidth; ++k) {
                const int j = expected[i] - kBand + k;
                if (j < 0 || j >= static_cast<int>(m_b.sounding.size()))
                    continue;
                const float here = unlike(first + static_cast<int>(i), j);
                float best = i == 0 ? 0.0F : kNever;
                std::uint8_t step = 0;
                const auto consider = [&](std::size_t pi, int pj, float weight, std::uint8_t s) {
                    const int pk = pj - expected[pi] + kBand;
                    if (pk < 0 || pk >= kWidth || (pi == i && pk >= k))
                        return;
                    const float c = cost[cell(pi, pk)] + weight * here;
                    if (c < best) {
                        best = c;
                        step = s;
                    }
                };
                if (i == 0) {
                    best = here;
                } else {
                    consider(i - 1, j - 1, 1.5F, 1);
                    consider(i - 1, j, 1.2F, 2);
                }
                consider(i, j - 1, 1.2F, 3);
                cost[cell(i, k)] = best;
                from[cell(i, k)] = step;
            }
        return traceBack(expected, cost, from);
    }

  private:
    float unlike(int i, int j) const {
        const auto ai = static_cast<std::size_t>(i);
        const auto bj = static_cast<std::size_t>(j);
        double beginning = 0.0;
        for (int k = 0; k < 12; ++k) {
            const int turned = (k + ((m_semitones % 12) + 12)) % 12;
            const double d = static_cast<double>(m_a.beginning[ai][static_cast<std::size_t>(k)]) -
                             m_b.beginning[bj][static_cast<std::size_t>(turned)];
            beginning += d * d;
        }
        return static_cast<float>(1.0 - alike(m_a.sounding[ai], m_b.sounding[bj], m_semitones) +
                                  std::sqrt(beginning));
    }

    static std::vector<double> traceBack(const std::vector<int>& expected,
                                         const std::vector<float>& cost,
                                         const std::vector<std::uint8_t>& from) {
        constexpr int kWidth = 2 * kBand + 1;
        const std::size_t n = expected.size();
        std::vector<double> sum(n, 0.0);
        std::vector<int> count(n, 0);
        std::size_t i = n - 1;
        int k = kBand;
        for (int other = 0; other < kWidth; ++other)
            if (cost[i * kWidth + static_cast<std::size_t>(other)] <
                cost[i * kWidth + static_cast<std::size_t>(k)])
                k = other;
        for (;;) {
            const int j = expected[i] - kBand + k;
            sum[i] += j;
            ++count[i];
            const std::uint8_t step = from[i * kWidth + static_cast<std::size_t>(k)];
            if (step == 0)
                break;
            const int back_j = step == 2 ? j : j - 1;
            if (step != 3)
                --i;
            k = back_j - expected[i] + kBand;
        }
        for (std::size_t f = 0; f < n; ++f)
            sum[f] = count[f] > 0 ? sum[f] / count[f] : expected[f];
        return sum;
    }

    const ChromaTrack& m_a;
    const ChromaTrack& m_b;
    int m_semitones;
};

// A line through what lies within `half` frames of each frame: the warp without its steps.
std::vector<double> smoothed(const std::vector<double>& y, int half) {
    std::vector<double> out(y.size());
    const auto n = static_cast<int>(y.size());
    for (int i = 0; i < n; ++i) {
        LineFit fit;
        for (int j = std::max(0, i - half); j <= std::min(n - 1, i + half); ++j)
            fit.add(j - i, y[static_cast<std::size_t>(j)]);
        out[static_cast<std::size_t>(i)] = fit.line().at_zero;
    }
    return out;
}

struct Warp {
    double first_s = 0.0;
    double hop_s = 0.02;
    std::vector<double> b_s; // b's time for every hop of a
    double end_s() const { return first_s + hop_s * static_cast<double>(b_s.size() - 1); }
    double at(double a_s) const {
        const double x =
            std::clamp((a_s - first_s) / hop_s, 0.0, static_cast<double>(b_s.size() - 1));
        const auto i = std::min(static_cast<std::size_t>(x), b_s.size() - 2);
        return b_s[i] + (x - static_cast<double>(i)) * (b_s[i + 1] - b_s[i]);
    }
};

struct Pair {
    double a_s = 0.0;
    double off_s = 0.0; // b's attack minus where the warp expects it
};

std::vector<Pair> pairAttacks(const Warp& warp,
                              const std::vector<OnsetPeak>& a,
                              const std::vector<OnsetPeak>& b,
                              int& asked) {
    std::vector<Pair> pairs;
    asked = 0;
    for (const OnsetPeak& peak : a) {
        if (peak.time_s < warp.first_s || peak.time_s > warp.end_s() || peak.strength < 0.3)
            continue;
        ++asked;
        const double expected = warp.at(peak.time_s);
        double nearest = kPair_s;
        for (auto other =
                 std::lower_bound(b.begin(),
                                  b.end(),
                                  expected - kPair_s,
                                  [](const OnsetPeak&p, double t) { return p.time_s < t; });
             other != b.end() && other->time_s < expected + kPair_s;
             ++other)
            if (other->strength >= 0.2 && std::abs(other->time_s - expected) < std::abs(nearest))
                nearest = other->time_s - expected;
        if (std::abs(nearest) < kPair_s)
            pairs.push_back({peak.time_s, nearest});
    }
    return pairs;
}

double medianOff(const std::vector<Pair>& pairs, double at_s, double near_s) {
    std::vector<double> offs;
    for (const Pair& p : pairs)
        if (std::abs(p.a_s - at_s) <= near_s)
            offs.push_back(p.off_s);
    if (offs.size() < 3)
        return 0.0;
    return *median(offs);
}

// b's time at `at_s` by the attacks near it: a line through those that agree with each other.
double lineThrough(const std::vector<MatchingMoment>& pairs, double at_s, double near_s) {
    LineFit fit;
    for (const MatchingMoment& p : pairs)
        if (const double x = p.a_s - at_s; std::abs(x) <= near_s)
            fit.add(x, p.b_s, 1.0 - std::abs(x) / (near_s * 1.01));
    return fit.line().at_zero;
}

// Moments about a second apart, where there are attacks to tell; before the first and after the
// last the tempo of the nearest ones goes on.
std::vector<MatchingMoment> momentsOf(const std::vector<MatchingMoment>& pairs, const Warp& warp) {
    std::vector<MatchingMoment> moments;
    for (std::size_t i = 0; i < pairs.size();) {
        std::size_t end = i;
        double middle = 0.0;
        while (end < pairs.size() && pairs[end].a_s < pairs[i].a_s + kKnot_s)
            middle += pairs[end++].a_s;
        middle /= static_cast<double>(end - i);
        const MatchingMoment m{middle, lineThrough(pairs, middle, 1.5 * kKnot_s)};
        if (moments.empty() ||
            (m.b_s > moments.back().b_s + 0.05 && m.a_s > moments.back().a_s + 0.05))
            moments.push_back(m);
        i = end;
    }
    const auto atPair = [&](const MatchingMoment& p) {
        return MatchingMoment{p.a_s, lineThrough(pairs, p.a_s, 1.5 * kKnot_s)};
    };
    if (!moments.empty() && pairs.front().a_s < moments.front().a_s - 0.1)
        moments.insert(moments.begin(), atPair(pairs.front()));
    if (!moments.empty() && pairs.back().a_s > moments.back().a_s + 0.1)
        moments.push_back(atPair(pairs.back()));
    if (moments.size() < 4)
        return moments;
    constexpr std::size_t kEnd = 3; // moments that tell the tempo at an end
    const auto extended = [&](const MatchingMoment& from, const MatchingMoment& to, double a_s) {
        const double rate = (to.b_s - from.b_s) / (to.a_s - from.a_s);
        return MatchingMoment{a_s, to.b_s + rate * (a_s - to.a_s)};
    };
    if (warp.end_s() > moments.back().a_s + kKnot_s)
        moments.push_back(
            extended(moments[moments.size() - 1 - kEnd], moments.back(), warp.end_s()));
    if (warp.first_s < moments.front().a_s - kKnot_s)
        moments.insert(moments.begin(), extended(moments[kEnd], moments.front(), warp.first_s));
    return moments;
}

// The warp put right by the attacks near each place; twice, so that the second pass pairs attacks
// by a better guess.
AlignmentFit refined(Warp warp, const std::vector<OnsetPeak>& a, const std::vector<OnsetPeak>& b) {
    int asked = 0;
    for (int pass = 0; pass < 2; ++pass) {
        const auto pairs = pairAttacks(warp, a, b, asked);
        for (std::size_t i = 0; i < warp.b_s.size(); ++i)
            warp.b_s[i] +=
                medianOff(pairs, warp.first_s + warp.hop_s * static_cast<double>(i), kNear_s);
        warp.b_s = smoothed(warp.b_s, static_cast<int>(0.5 / warp.hop_s));
    }
    std::vector<MatchingMoment> agreeing;
    for (const Pair& p : pairAttacks(warp, a, b, asked))
        if (std::abs(p.off_s) < kAgree_s)
            agreeing.push_back({p.a_s, warp.at(p.a_s) + p.off_s});
    AlignmentFit fit;
    fit.certainty = asked > 0 ? static_cast<double>(agreeing.size()) / asked : 0.0;
    if (agreeing.size() >= 3)
        fit.moments = momentsOf(agreeing, warp);
    return fit;
}

} // namespace

Result<AlignmentFit>
alignSounds(SoundView a, double a_a4_hz, SoundView b, double b_a4_hz, const JobControl& job) {
    const auto chroma_a = chromaOf(a, a_a4_hz, job);
    if (!chroma_a)
        return chroma_a.error();
    const auto chroma_b = chromaOf(b, b_a4_hz, job);
    if (!chroma_b)
        return chroma_b.error();
    JobControl quiet;
    quiet.cancel = job.cancel;
    const auto flux_a = spectralFlux(a, {}, quiet);
    const auto flux_b = spectralFlux(b, {}, quiet);
    if (!flux_a || !flux_b)
        return cancelled();
    const std::size_t longest = std::max(chroma_a->sounding.size(), chroma_b->sounding.size());
    const int coarse = std::max(8, static_cast<int>(longest / kMostCoarse) + 1);
    const int semitones = bestTransposition(*chroma_a, *chroma_b, coarse);
    if (job.cancelRequested())
        return cancelled();
    Path path;
    LocalAlignment(
        coarser(chroma_a->sounding, coarse), coarser(chroma_b->sounding, coarse), semitones)
        .run(&path);
    AlignmentFit fit;
    if (path.size() < 4)
        return fit;
    // Where each fine frame of a should be in b.
    const int first = path.front().first * coarse;
    std::vector<int> expected;
    std::size_t at = 0;
    for (int i = first; i < std::min<int>((path.back().first + 1) * coarse,
                                          static_cast<int>(chroma_a->sounding.size()));
         ++i) {
        while (at + 2 < path.size() && path[at + 1].first * coarse <= i)
            ++at;
        const double share = static_cast<double>(i - path[at].first * coarse) /
                             std::max(1, (path[at + 1].first - path[at].first) * coarse);
        expected.push_back(static_cast<int>(std::lround(
            coarse * (path[at].second + share * (path[at + 1].second - path[at].second)))));
    }
    Warp warp;
    warp.hop_s = chroma_a->hop_s;
    warp.first_s = first * warp.hop_s;
    for (const double j : smoothed(BandWarp(*chroma_a, *chroma_b, semitones).run(first, expected),
                                   static_cast<int>(1.0 / warp.hop_s)))
        warp.b_s.push_back(j * chroma_b->hop_s);
    fit = refined(std::move(warp),
                  pickOnsets(*flux_a, PeakParameters{}),
                  pickOnsets(*flux_b, PeakParameters{}));
    fit.semitones = semitones;
    return fit;
}

} // namespace wirenote
