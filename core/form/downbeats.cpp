#include "form/downbeats.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <utility>

namespace wirenote {
namespace {

constexpr double kNear_s = 0.08;
constexpr double kBass = 1.0; // weights of what speaks for a beat, each in its own deviations
constexpr double kLong = 0.6;
constexpr double kHarmony = 1.0;
constexpr double kFirst = 1.6; // the first note's beat …
constexpr double kLoud = 0.3;

using Chroma = std::array<double, 12>;

// What each beat brings.
struct BeatFacts {
    double bass = 0.0;    // how far down it reaches
    double length = 0.0;  // of the longest note that begins on it
    double harmony = 0.0; // how much new it brings against the beats before
    double loud = 0.0;
};

Chroma chromaOf(const std::vector<Note>& notes, double from_s, double to_s) {
    Chroma chroma{};
    for (const Note& note : notes) {
        if (note.onset_s() >= to_s)
            break;
        const double sounding = std::min(to_s, note.offset_s()) - std::max(from_s, note.onset_s());
        if (sounding > 0.0 && note.pitched())
            chroma[static_cast<std::size_t>(note.midi() % 12)] += sounding;
    }
    double norm = 1e-9;
    for (const double v : chroma)
        norm += v * v;
    for (double& v : chroma)
        v /= std::sqrt(norm);
    return chroma;
}

double unlike(const Chroma& a, const Chroma& b) {
    double same = 0.0;
    for (std::size_t i = 0; i < 12; ++i)
        same += a[i] * b[i];
    return 1.0 - same;
}

std::vector<BeatFacts> factsOf(const std::vector<Note>& notes, const std::vector<double>& beats_s) {
    std::vector<BeatFacts> facts(beats_s.size());
    double lowest = 127.0;
    for (const Note& note : notes)
        if (note.pitched())
            lowest = std::min(lowest, note.pitch.value);
    for (std::size_t b = 0; b < beats_s.size(); ++b) {
        const double step_s = b + 1 < beats_s.size() ? beats_s[b + 1] - beats_s[b]
                              : b > 0                ? beats_s[b] - beats_s[b - 1]
                                                     : 0.5;
        auto note = std::ranges::lower_bound(notes, beats_s[b] - kNear_s, {}, &Note::onset_s);
        for (; note != notes.end() && note->onset_s() < beats_s[b] + kNear_s; ++note) {
            if (!note->pitched())
                continue;
            facts[b].bass = std::max(facts[b].bass, std::exp((lowest - note->pitch.value) / 7.0));
            facts[b].length =
                std::max(facts[b].length, std::min(2.0, note->time.value.length_s() / step_s));
            facts[b].loud = std::max(facts[b].loud, note->velocity);
        }
        facts[b].harmony =
            unlike(chromaOf(notes, beats_s[b] - 1.5 * step_s, beats_s[b] - 0.1 * step_s),
                   chromaOf(notes, beats_s[b], beats_s[b] + 1.5 * step_s));
    }
    return facts;
}

constexpr double kNone = 1e-6; // deviation of what says nothing

struct Spread {
    double mean = 0.0;
    double deviation = 0.0;
};
Spread spreadOf(const std::vector<BeatFacts>& facts, double BeatFacts::*fact) {
    const auto n = static_cast<double>(facts.size());
    double mean = 0.0;
    double square = 0.0;
    for (const BeatFacts& f : facts) {
        mean += f.*fact / n;
        square += f.*fact * (f.*fact) / n;
    }
    return {mean, std::sqrt(std::max(0.0, square - mean * mean))};
}

// Adds, for each phase, how far its mean lies above that of all, in deviations of the mean.
void vote(const std::vector<BeatFacts>& facts,
          double weight,
          double BeatFacts::*fact,
          std::vector<double>& phases) {
    const Spread spread = spreadOf(facts, fact);
    if (spread.deviation < kNone)
        return;
    std::vector<double> sums(phases.size(), 0.0);
    std::vector<double> counts(phases.size(), 1e-9);
    for (std::size_t b = 0; b < facts.size(); ++b) {
        sums[b % phases.size()] += facts[b].*fact;
        counts[b % phases.size()] += 1.0;
    }
    for (std::size_t p = 0; p < phases.size(); ++p)
        phases[p] +=
            weight * (sums[p] / counts[p] - spread.mean) / spread.deviation * std::sqrt(counts[p]);
}

} // namespace

std::vector<double> beatSalience(const std::vector<Note>& notes,
                                 const std::vector<double>& beats_s) {
    constexpr double kFurthest = 2.0;
    constexpr std::array<std::pair<double BeatFacts::*, double>, 4> kWeights{
        {{&BeatFacts::bass, kBass},
         {&BeatFacts::length, kLong},
         {&BeatFacts::harmony, kHarmony},
         {&BeatFacts::loud, kLoud}}};
    if (notes.empty() || beats_s.empty())
        return std::vector<double>(beats_s.size(), 0.0);
    const auto facts = factsOf(notes, beats_s);
    std::vector<double> salience(facts.size(), 0.0);
    double squares = 0.0;
    for (const auto& [fact, weight] : kWeights) {
        const Spread spread = spreadOf(facts, fact);
        squares += weight * weight;
        if (spread.deviation >= kNone)
            for (std::size_t b = 0; b < facts.size(); ++b)
                salience[b] += weight * (facts[b].*fact - spread.mean) / spread.deviation;
    }
    for (double& s : salience)
        s = std::clamp(s / std::sqrt(squares), -kFurthest, kFurthest);
    return salience;
}

std::vector<double> downbeatScores(const std::vector<Note>& notes,
                                   const std::vector<double>& beats_s,
                                   int beats_per_bar) {
    if (beats_per_bar < 2 || beats_s.size() < 2 || notes.empty())
        return {};
    std::vector<double> phases(static_cast<std::size_t>(beats_per_bar), 0.0);
    const auto facts = factsOf(notes, beats_s);
    vote(facts, kBass, &BeatFacts::bass, phases);
    vote(facts, kLong, &BeatFacts::length, phases);
    vote(facts, kHarmony, &BeatFacts::harmony, phases);
    vote(facts, kLoud, &BeatFacts::loud, phases);
    const auto first = std::ranges::min_element(
        beats_s, {}, [&](double t) { return std::abs(t - notes.front().onset_s()); });
    phases[static_cast<std::size_t>(first - beats_s.begin()) % phases.size()] += kFirst;
    return phases;
}

int likeliestDownbeat(const std::vector<Note>& notes,
                      const std::vector<double>& beats_s,
                      int beats_per_bar) {
    const auto scores = downbeatScores(notes, beats_s, beats_per_bar);
    return scores.empty() ? 0 : static_cast<int>(std::ranges::max_element(scores) - scores.begin());
}

} // namespace wirenote
