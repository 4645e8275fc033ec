#include "vision/fret_row.h"

#include "base/median.h"

#include <algorithm>
#include <cmath>
#include <opencv2/core.hpp>
#include <vector>

namespace wirenote::vision {
namespace {

constexpr float kClear = 3.0F; // times the middle of the line: all of a wire
constexpr float kLeast = 3.0F; // grey, or noise
constexpr float kMostClear = 2.0F;
constexpr float kPeak = 0.5F; // of a wire
constexpr int kAround = 4;    // pixels
constexpr std::size_t kFewestPeaks = 6;
constexpr std::size_t kMostPeaks = 160;
constexpr std::size_t kNeighbours = 3;
constexpr double kNearest = 10.0; // pixels between neighbouring wires
constexpr double kFarthest = 160.0;
constexpr double kSteepest = 0.85; // ratio of one distance to the one before
constexpr double kFlattest = 1.02;
constexpr double kTolerance = 0.18; // of a fret
constexpr int kHidden = 6;          // wires in a row that a hand may hide
constexpr double kShrink = 0.99;    // each distance of the one before, in perspective; a fence: 1
constexpr double kShrinkMost = 0.87;
constexpr int kMost = 26;
constexpr std::size_t kFewest = 8; // wires
constexpr double kAgrees = 3.0;    // pixels
constexpr double kOfItself = 0.6;  // clearness that a wire has to beat

double share(double wire) {
    return std::exp2(-wire / 12.0);
}

struct Wire {
    int n = 0;
    double x = 0.0;
};

// x = (a + b·v) / (1 + c·v) by least squares of x + c·x·v = a + b·v.
struct Perspective {
    double a = 0.0, b = 0.0, c = 0.0;
    double at(double v) const { return (a + b * v) / (1.0 + c * v); }
};

// Without perspective where wires are too few to tell it.
template <class Value>
std::optional<Perspective> fit(std::span<const Wire> wires, const Value& value) {
    constexpr std::size_t kForPerspective = 5;
    constexpr double kSize = 500.0; // pixels: numbers about 1
    const bool flat = wires.size() < kForPerspective;
    double middle = 0.0;
    for (const Wire& wire : wires)
        middle += wire.x / static_cast<double>(wires.size());
    cv::Matx33d normal = cv::Matx33d::zeros();
    cv::Vec3d right;
    for (const Wire& wire : wires) {
        const double v = value(wire.n);
        const double x = (wire.x - middle) / kSize;
        const cv::Vec3d row(1.0, v, flat ? 0.0 : -x * v);
        normal += row * row.t();
        right += x * row;
    }
    if (flat)
        normal(2, 2) = 1.0;
    if (std::abs(cv::determinant(normal)) < 1e-14)
        return std::nullopt;
    const cv::Vec3d s = normal.inv() * right;
    return Perspective{middle + kSize * s[0], middle * s[2] + kSize * s[1], s[2]};
}

std::optional<FretRow> fit(std::span<const Wire> wires) {
    const auto seen = fit(wires, share);
    return seen ? std::optional(FretRow{seen->a, seen->b, seen->c, 0, 0, 0, 0.0}) : std::nullopt;
}

// The posts of a fence, the keys of a keyboard stand evenly: do these do so rather than as frets?
bool evenRather(std::span<const Wire> wires, const FretRow& row) {
    constexpr double kClearlyBetter = 0.7; // of the frets' error
    const auto even = fit(wires, [](double n) { return n / 12.0; });
    double as_frets = 0.0;
    double evenly = 0.0;
    for (const Wire& wire : wires) {
        as_frets += std::pow(row.at(wire.n) - wire.x, 2);
        evenly += even ? std::pow(even->at(wire.n / 12.0) - wire.x, 2) : 1e9;
    }
    return std::sqrt(evenly) < kClearlyBetter * std::sqrt(as_frets);
}

bool shrinksAsFretsDo(const FretRow& row) {
    const auto ratio = [&row](int n) {
        return (row.at(n + 2) - row.at(n + 1)) / (row.at(n + 1) - row.at(n));
    };
    const auto usual = [](double r) { return r < kShrink && r > kShrinkMost; };
    return row.last - row.first >= 3 && usual(ratio(row.first)) && usual(ratio(row.last - 2));
}

class Rows {
  public:
    explicit Rows(std::span<const float> clearness) : m_clear(clearness.begin(), clearness.end()) {
        std::vector<float> sorted(m_clear);
        const float all = std::max(kClear * median(std::move(sorted)).value_or(0.0F), kLeast);
        for (float& v : m_clear)
            v = std::min(v / all, 8.0F);
        findPeaks();
    }

    std::optional<FretRow> best() const {
        std::optional<FretRow> best;
        if (m_peaks.size() < kFewestPeaks || m_peaks.size() > kMostPeaks)
            return best;
        for (std::size_t i = 0; i < m_peaks.size(); ++i)
            for (std::size_t j = i + 1; j < std::min(m_peaks.size(), i + 1 + kNeighbours); ++j)
                for (std::size_t k = j + 1; k < std::min(m_peaks.size(), j + 1 + kNeighbours); ++k)
                    consider(m_peaks[i], m_peaks[j], m_peaks[k], best);
        return best;
    }

  private:
    // Both edges of a broad line are one: a nut's, a fence post's.
    void findPeaks() {
        for (std::size_t x = kAround; x + kAround < m_clear.size(); ++x) {
            if (m_clear[x] < kPeak ||
                m_clear[x] < *std::max_element(&m_clear[x - kAround], &m_clear[x + kAround] + 1))
                continue;
            const auto here = static_cast<double>(x);
            if (!m_peaks.empty() && here - m_peaks.back() < kNearest) {
                const double was = m_clear[static_cast<std::size_t>(m_peaks.back())];
                m_peaks.back() += (here - m_peaks.back()) * m_clear[x] / (m_clear[x] + was);
            } else {
                m_peaks.push_back(here);
            }
        }
    }

    void consider(double low, double middle, double high, std::optional<FretRow>& best) const {
        const double first = middle - low;
        const double second = high - middle;
        if (std::min(first, second) < kNearest || std::max(first, second) > kFarthest)
            return;
        for (const bool rising : {true, false}) {
            const double ratio = rising ? second / first : first / second;
            if (ratio < kSteepest || ratio > kFlattest)
                continue;
            const auto row =
                grown({{0, rising ? low : high}, {1, middle}, {2, rising ? high : low}});
            if (row && (!best || row->score > best->score))
                best = row;
        }
    }

    std::optional<double> peakNear(double x, double reach) const {
        auto at = std::ranges::lower_bound(m_peaks, x - reach);
        std::optional<double> best;
        for (; at != m_peaks.end() && *at < x + reach; ++at)
            if (!best || clear(*at) > clear(*best))
                best = *at;
        return best;
    }

    std::optional<FretRow> grown(std::vector<Wire> wires) const {
        for (const int way : {1, -1}) {
            int n = way > 0 ? wires.back().n : wires.front().n;
            for (int missed = 0; missed < kHidden && std::abs(n) < kMost;) {
                n += way;
                const auto row = fit(wires);
                if (!row)
                    return std::nullopt;
                const double x = row->at(n);
                const double fret = std::abs(x - row->at(n - way));
                if (!(fret > kNearest / 2.0) || !(x >= 0.0) ||
                    !(x < static_cast<double>(m_clear.size())))
                    break;
                const auto peak = peakNear(x, kTolerance * fret);
                missed = peak ? 0 : missed + 1;
                if (peak)
                    wires.insert(way > 0 ? wires.end() : wires.begin(), {n, *peak});
            }
        }
        return settled(std::move(wires));
    }

    // Fitted once more without what does not agree, and scored.
    std::optional<FretRow> settled(std::vector<Wire> wires) const {
        auto row = wires.size() >= kFewest ? fit(wires) : std::nullopt;
        if (!row)
            return std::nullopt;
        const int first = wires.front().n - 1;
        const int last = wires.back().n + 1;
        std::erase_if(wires, [&row](const Wire& wire) {
            return !(std::abs(row->at(wire.n) - wire.x) < kAgrees);
        });
        row = wires.size() >= kFewest ? fit(wires) : std::nullopt;
        if (!row || evenRather(wires, *row))
            return std::nullopt;
        score(first, last, *row);
        return row;
    }

    // The stretch of wires that stand out most.
    void score(int first, int last, FretRow& row) const {
        const double way = row.at(first + 1) - row.at(first);
        double sum = 0.0;
        int from = first;
        for (int n = first; n <= last; ++n) {
            if (!((row.at(n + 1) - row.at(n)) / way > 0.0))
                return; // beyond what perspective shows
            const auto between = [&](int k) {
                return 0.5 * (clear(row.at(k + 1.0 / 3.0)) + clear(row.at(k + 2.0 / 3.0)));
            };
            if (sum <= 0.0) {
                sum = 0.0;
                from = n;
            }
            sum += clear(row.at(n)) - 0.5 * (between(n - 1) + between(n)) - kOfItself;
            if (sum > row.score) {
                row.score = sum;
                row.first = from;
                row.last = n;
            }
        }
        if (!shrinksAsFretsDo(row))
            row.score = 0.0;
        for (int n = row.first; row.score > 0.0 && n <= row.last; ++n)
            row.wires += clear(row.at(n)) > kOfItself ? 1 : 0;
    }

    double clear(double x) const {
        const auto at = static_cast<long>(std::lround(x));
        float most = 0.0F;
        for (long k = at - 2; k <= at + 2; ++k)
            if (k >= 0 && k < static_cast<long>(m_clear.size()))
                most = std::max(most, m_clear[static_cast<std::size_t>(k)]);
        return std::min(most, kMostClear);
    }

    std::vector<float> m_clear; // 1: a wire
    std::vector<double> m_peaks;
};

} // namespace

double FretRow::at(double wire) const {
    const double q = share(wire);
    return (a + b * q) / (1.0 + c * q);
}

std::optional<FretRow> fitFretRow(std::span<const float> clearness) {
    return Rows(clearness).best();
}

} // namespace wirenote::vision
