#include "score/metre_guess.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr int kHalves = 2;          // divisions of a beat that accents are laid on
constexpr double kNear_s = 0.07;    // from an accent to its division
constexpr std::size_t kFewest = 16; // beats: less says nothing of bars
constexpr double kLowMidi = 64.0;   // below, a note is bass and marks the beat
constexpr double kOctaves = 24.0;
constexpr double kThird = 0.045; // of a beat, about a division
constexpr int kFewestThirds = 8;
constexpr double kClearly = 1.01; // times the stress of the beats
constexpr double kFirst = 1.06;   // times, when the first note falls on a beat

// How strongly each half beat is marked: by loud, long and low notes.
std::vector<double> accents(const std::vector<Note>& notes, const std::vector<double>& beats_s) {
    std::vector<double> weight((beats_s.size() - 1) * kHalves, 0.0);
    std::vector<double> bass(weight.size(), 0.0);
    for (const Note& note : notes) {
        if (note.has(Technique::GhostStroke))
            continue;
        const auto after =
            std::upper_bound(beats_s.begin(), beats_s.end(), note.onset_s() + kNear_s);
        if (after == beats_s.begin() || after == beats_s.end())
            continue;
        const double start_s = *(after - 1);
        const double part = (note.onset_s() - start_s) / (*after - start_s) * kHalves;
        const auto slot = static_cast<std::size_t>(after - 1 - beats_s.begin()) * kHalves +
                          static_cast<std::size_t>(std::max(0.0, std::round(part)));
        const double off_s = std::abs(part - std::round(part)) * (*after - start_s) / kHalves;
        if (slot >= weight.size() || off_s > kNear_s)
            continue;
        weight[slot] += note.velocity * (0.4 + std::min(1.0, note.time.value.length_s()));
        bass[slot] += note.velocity * std::max(0.0, (kLowMidi - note.pitch.value) / kOctaves);
    }
    for (std::size_t i = 0; i < weight.size(); ++i)
        weight[i] = std::sqrt(weight[i]) + 2.0 * std::sqrt(bass[i]);
    return weight;
}

// Autocorrelation at a lag of half beats, 1 for a perfect return.
double returns(const std::vector<double>& x, std::size_t lag) {
    if (x.size() < 2 * lag)
        return 0.0;
    double mean = 0.0;
    for (const double v : x)
        mean += v / static_cast<double>(x.size());
    double power = 1e-9;
    for (const double v : x)
        power += (v - mean) * (v - mean) / static_cast<double>(x.size());
    double sum = 0.0;
    for (std::size_t i = 0; i + lag < x.size(); ++i)
        sum += (x[i] - mean) * (x[i + lag] - mean);
    return sum / static_cast<double>(x.size() - lag) / power;
}

// How strongly the places a part of a beat after each beat are marked.
double stressAt(const std::vector<Note>& notes, const std::vector<double>& beats_s, double part) {
    double stress = 0.0;
    for (std::size_t b = 0; b + 1 < beats_s.size(); ++b) {
        const double at_s = beats_s[b] + part * (beats_s[b + 1] - beats_s[b]);
        double weight = 0.0;
        double bass = 0.0;
        auto note = std::lower_bound(notes.begin(),
                                     notes.end(),
                                     at_s - kNear_s,
                                     [](const Note& n, double t) { return n.onset_s() < t; });
        for (; note != notes.end() && note->onset_s() < at_s + kNear_s; ++note) {
            if (note->has(Technique::GhostStroke))
                continue;
            weight += note->velocity * (0.4 + std::min(1.0, note->time.value.length_s()));
            bass += note->velocity * std::max(0.0, (kLowMidi - note->pitch.value) / kOctaves);
        }
        stress += std::sqrt(weight) + 2.0 * std::sqrt(bass);
    }
    return stress;
}

// True when the first note begins on a beat, were the beats this part of a beat later: most pieces
// begin on one (common practice).
bool firstFallsOn(const std::vector<Note>& notes, const std::vector<double>& beats_s, double part) {
    if (notes.empty())
        return false;
    const double step_s = beats_s[1] - beats_s[0];
    const double beats = (notes.front().onset_s() - beats_s[0]) / step_s - part;
    return std::abs(beats - std::round(beats)) * step_s < kNear_s;
}

// Notes on thirds of the beat against notes on halves and quarters.
bool dividedInThirds(const std::vector<Note>& notes, const std::vector<double>& beats_s) {
    int thirds = 0;
    int others = 0;
    for (const Note& note : notes) {
        const auto after = std::upper_bound(beats_s.begin(), beats_s.end(), note.onset_s());
        if (after == beats_s.begin() || after == beats_s.end())
            continue;
        const double part = (note.onset_s() - *(after - 1)) / (*after - *(after - 1));
        const auto near = [part](double at) { return std::abs(part - at) < kThird; };
        thirds += near(1.0 / 3.0) || near(2.0 / 3.0) ? 1 : 0;
        others += near(0.25) || near(0.5) || near(0.75) ? 1 : 0;
    }
    return thirds >= kFewestThirds && thirds > 2 * others;
}

} // namespace

double beatsOff(const std::vector<Note>& notes, const std::vector<double>& beats_s, bool compound) {
    if (beats_s.size() < kFewest / 2)
        return 0.0;
    double best = 0.0;
    const auto stressOf = [&](double part) {
        return stressAt(notes, beats_s, part) * (firstFallsOn(notes, beats_s, part) ? kFirst : 1.0);
    };
    double most = kClearly * stressOf(0.0);
    for (const double part : compound ? std::vector{1.0 / 3.0, 2.0 / 3.0} : std::vector{0.5})
        if (const double stress = stressOf(part); stress > most) {
            most = stress;
            best = part;
        }
    return best;
}

MetreGuess guessMetre(const std::vector<Note>& notes, const std::vector<double>& beats_s) {
    MetreGuess guess;
    if (beats_s.size() < kFewest || notes.size() < kFewest)
        return guess;
    if (dividedInThirds(notes, beats_s)) {
        guess.metre = {6, 8};
        guess.certainty = 0.7;
        return guess;
    }
    const auto x = accents(notes, beats_s);
    const double by_three = returns(x, 3); // half beats: a dotted quarter, when a beat is a quarter
    const double by_six = returns(x, 6);
    const double by_eight = returns(x, 8);
    if (by_three > 0.25 && by_three > returns(x, 2) + 0.1 && by_six > 0.3 &&
        by_six > by_eight + 0.2) {
        guess.metre = {6, 8};
        guess.beat_factor = 1.5;
        guess.certainty = std::clamp(by_six - by_eight, 0.0, 1.0);
        return guess;
    }
    const double threes = 0.5 * (by_six + returns(x, 12));
    const double fours = 0.5 * (returns(x, 4) + by_eight);
    if (threes > 0.4 && threes > fours + 0.02)
        guess.metre = {3, 4};
    guess.certainty = std::clamp(std::abs(threes - fours), 0.0, 1.0);
    return guess;
}

} // namespace wirenote
