#include "form/steady_beats.h"

#include "base/median.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <complex>
#include <numbers>

namespace wirenote {
namespace {

constexpr std::array kParts = {1, 2, 4, 8};
constexpr double kShortest_s = 0.2; // no beat is shorter

std::vector<double> attacksOf(const std::vector<Note>& notes, double joined_s) {
    std::vector<double> attacks_s;
    for (const Note& note : notes)
        if (!note.slurred() && (attacks_s.empty() || note.onset_s() - attacks_s.back() > joined_s))
            attacks_s.push_back(note.onset_s());
    return attacks_s;
}

// How the attacks lie in a beat of this length: one number a part of kParts.
std::array<std::complex<double>, kParts.size()> folded(const std::vector<double>& attacks_s,
                                                       double period_s) {
    std::array<std::complex<double>, kParts.size()> sums{};
    for (const double at_s : attacks_s) {
        const auto turn = std::polar(1.0, 2.0 * std::numbers::pi * at_s / period_s);
        auto power = turn;
        for (std::size_t k = 0; k < kParts.size(); ++k) {
            sums[k] += power;
            power *= power; // twice as many parts
        }
    }
    return sums;
}

double strengthOf(const std::vector<double>& attacks_s, double period_s) {
    double sum = 0.0;
    for (const auto& part : folded(attacks_s, period_s))
        sum += std::norm(part) / static_cast<double>(attacks_s.size());
    return sum;
}

// Where in the beat most attacks lie, 0..1 of it.
double phaseOf(const std::vector<double>& attacks_s, double period_s) {
    constexpr int kSteps = 64;
    const auto sums = folded(attacks_s, period_s);
    double best = 0.0;
    double most = -1e300;
    for (int i = 0; i < kSteps; ++i) {
        const double phase = static_cast<double>(i) / kSteps;
        double here = 0.0;
        for (std::size_t k = 0; k < kParts.size(); ++k)
            here +=
                std::real(sums[k] * std::polar(1.0, -2.0 * std::numbers::pi * kParts[k] * phase));
        if (here > most) {
            most = here;
            best = phase;
        }
    }
    return best;
}

// How far the attacks of each quarter of the take lie in the beat where those of the whole do: of
// the quarter where they do least against the one where they do most. In takes of several tempi
// that were joined, one may be strong enough to pass for all.
double evenness(const std::vector<double>& attacks_s, double period_s) {
    constexpr int kQuarters = 4;
    const auto whole = folded(attacks_s, period_s);
    const auto strongest = static_cast<std::size_t>(
        std::ranges::max_element(whole, {}, [](const auto& part) { return std::abs(part); }) -
        whole.begin());
    const double length_s = attacks_s.back() - attacks_s.front();
    double least = 1.0;
    double most = 1e-9;
    auto from = attacks_s.begin();
    for (int q = 1; q <= kQuarters; ++q) {
        const auto to =
            std::upper_bound(from, attacks_s.end(), attacks_s.front() + length_s * q / kQuarters);
        const auto here = folded({from, to}, period_s)[strongest];
        const double along = std::real(here * std::conj(whole[strongest])) /
                             std::abs(whole[strongest]) /
                             static_cast<double>(std::max<std::ptrdiff_t>(1, to - from));
        least = std::min(least, along);
        most = std::max(most, along);
        from = to;
    }
    return least / most;
}

} // namespace

std::vector<double> steadyBeats(const std::vector<Note>& notes,
                                const std::vector<double>& beats_s,
                                const SteadyParameters& p) {
    const std::vector<double> attacks_s = attacksOf(notes, p.joined_s);
    if (beats_s.size() < 4 || attacks_s.empty())
        return {};
    const double length_s = attacks_s.back() - attacks_s.front();
    if (length_s < p.least_s || length_s > p.longest_s)
        return {};
    std::vector<double> lengths_s;
    for (std::size_t i = 1; i < beats_s.size(); ++i)
        lengths_s.push_back(beats_s[i] - beats_s[i - 1]);
    const double about_s = *median(lengths_s);
    if (about_s < kShortest_s)
        return {};
    // Fine enough that the finest part moves by a fifth of itself over the whole.
    const double step = 0.2 / kParts.back() * about_s / length_s;
    const int steps = static_cast<int>(p.reach / step);
    std::vector<double> strengths;
    for (int k = -steps; k <= steps; ++k)
        strengths.push_back(strengthOf(attacks_s, about_s * (1.0 + k * step)));
    const auto best = std::ranges::max_element(strengths) - strengths.begin();
    double elsewhere = 0.0;
    for (std::size_t i = 0; i < strengths.size(); ++i)
        if (std::abs(static_cast<double>(i) - static_cast<double>(best)) * step > p.far)
            elsewhere = std::max(elsewhere, strengths[i]);
    const double most = strengths[static_cast<std::size_t>(best)];
    if (most < p.clear || most < p.clearer * elsewhere)
        return {};
    const double period_s = about_s * (1.0 + static_cast<double>(best - steps) * step);
    if (evenness(attacks_s, period_s) < p.even)
        return {};
    std::vector<double> steady;
    const double phase = phaseOf(attacks_s, period_s);
    const double until_s = std::max(beats_s.back(), attacks_s.back()) + 0.5 * period_s;
    for (double n = std::ceil((beats_s.front() - 0.5 * period_s) / period_s - phase);
         (n + phase) * period_s < until_s;
         n += 1.0)
        if ((n + phase) * period_s >= 0.0)
            steady.push_back((n + phase) * period_s);
    return steady;
}

} // namespace wirenote
