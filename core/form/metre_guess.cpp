#include "form/metre_guess.h"

#include "base/interpolate.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>
#include <span>

namespace wirenote {
namespace {

constexpr int kHalves = 2;          // divisions of a beat that accents are laid on
constexpr double kNear_s = 0.07;    // from an accent to its division
constexpr std::size_t kFewest = 16; // beats: less says nothing of bars
constexpr double kLowMidi = 64.0;   // below, a note is bass and marks the beat
constexpr double kOctaves = 24.0;
constexpr double kThird = 0.045; // of a beat, about a division
constexpr int kFewestThirds = 8;
constexpr double kForever_s = std::numeric_limits<double>::max();
constexpr double kClearly = 1.01; // times the stress of the beats
constexpr double kUpbeat = 0.6;   // of a beat: what lies nearer before playing begins belongs to it
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
double stressAt(std::span<const Note> notes, std::span<const double> beats_s, double part) {
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
bool firstFallsOn(std::span<const Note> notes, std::span<const double> beats_s, double part) {
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
        if (beats_s.size() < 2 || note.onset_s() < beats_s.front() ||
            note.onset_s() >= beats_s.back())
            continue;
        const double place = placeAmong(beats_s, note.onset_s());
        const double part = place - std::floor(place);
        const auto near = [part](double at) { return std::abs(part - at) < kThird; };
        thirds += near(1.0 / 3.0) || near(2.0 / 3.0) ? 1 : 0;
        others += near(0.25) || near(0.5) || near(0.75) ? 1 : 0;
    }
    return thirds >= kFewestThirds && thirds > 2 * others;
}

// How far these beats lie before the stressed places, as a part of a beat; nothing when they are
// too few to tell.
std::optional<double>
beatsOff(std::span<const Note> notes, std::span<const double> beats_s, bool compound) {
    if (beats_s.size() < kFewest / 2)
        return {};
    double best = 0.0;
    const auto stressOf = [&](double part) {
        return stressAt(notes, beats_s, part) * (firstFallsOn(notes, beats_s, part) ? kFirst : 1.0);
    };
    double most = kClearly * stressOf(0.0);
    for (const double part : compound ? std::vector{0.5, 1.0 / 3.0, 2.0 / 3.0} : std::vector{0.5})
        if (const double stress = stressOf(part); stress > most) {
            most = stress;
            best = part;
        }
    return best;
}

// Where playing begins anew after a pause, as indices of notes; 0 is the first.
std::vector<std::size_t> beginnings(const std::vector<Note>& notes) {
    constexpr double kNothingBegins_s = 2.5;
    constexpr double kSilent_s = 0.7;
    std::vector<std::size_t> first{0};
    double sounds_until_s = 0.0;
    for (std::size_t i = 1; i < notes.size(); ++i) {
        sounds_until_s = std::max(sounds_until_s, notes[i - 1].offset_s());
        const double onset_s = notes[i].onset_s();
        if (onset_s - sounds_until_s > kSilent_s ||
            onset_s - notes[i - 1].onset_s() > kNothingBegins_s)
            first.push_back(i);
    }
    return first;
}

// How long a beat is there: the shorter of the distances to its neighbours, of which one may be a
// pause.
double beatAt(const std::vector<double>& beats_s, std::size_t b) {
    const double before = b > 0 ? beats_s[b] - beats_s[b - 1] : kForever_s;
    const double after = b + 1 < beats_s.size() ? beats_s[b + 1] - beats_s[b] : kForever_s;
    return std::min(before, after);
}

} // namespace

std::vector<double>
beatsOnStress(const std::vector<Note>& notes, const std::vector<double>& beats_s, bool compound) {
    if (notes.empty() || beats_s.size() < 2)
        return beats_s;
    const double of_all = beatsOff(notes, beats_s, compound).value_or(0.0);
    std::vector<double> moved;
    const auto first = beginnings(notes);
    std::size_t from = 0; // of the beats
    for (std::size_t k = 0; k < first.size(); ++k) {
        const bool last = k + 1 == first.size();
        std::size_t to = beats_s.size();
        if (!last) {
            const double next_s = notes[first[k + 1]].onset_s();
            to = from;
            while (to < beats_s.size() && beats_s[to] + kUpbeat * beatAt(beats_s, to) < next_s)
                ++to;
        }
        const std::span played(notes.begin() + static_cast<std::ptrdiff_t>(first[k]),
                               (last ? notes.size() : first[k + 1]) - first[k]);
        const double off = beatsOff(played, std::span(beats_s).subspan(from, to - from), compound)
                               .value_or(of_all);
        for (; from < to; ++from) {
            const double at_s = beats_s[from] + off * beatAt(beats_s, from);
            // In a pause where the phase changes a beat may come too soon after another.
            if (!moved.empty() && at_s - moved.back() < kUpbeat * beatAt(beats_s, from))
                moved.pop_back();
            moved.push_back(at_s);
        }
    }
    return moved;
}

double offBeatStress(const std::vector<Note>& notes, const std::vector<double>& beats_s) {
    if (beats_s.size() < 2)
        return 1.0;
    const auto stressOf = [&](double part) {
        return stressAt(notes, beats_s, part) * (firstFallsOn(notes, beats_s, part) ? kFirst : 1.0);
    };
    return stressOf(0.5) / std::max(1e-9, stressOf(0.0));
}

namespace {

// `x`: accents by half beats; `raw`: the same before anything was taken from them.
std::vector<MetreReturn>
returnsOf(const std::vector<double>& x, const std::vector<double>& raw, bool compound) {
    const auto twice = [](const std::vector<double>& of, std::size_t lag) {
        return 0.5 * (returns(of, lag) + returns(of, 2 * lag));
    };
    if (compound)
        return {{{6, 8}, twice(x, 4)}, {{9, 8}, twice(x, 6)}, {{12, 8}, twice(x, 8)}};
    return {{{4, 4}, twice(x, 4)},
            {{3, 4}, twice(x, 6)},
            {{5, 4}, twice(x, 10)},
            {{7, 8}, twice(raw, 7)}};
}

} // namespace

std::vector<MetreReturn>
metreReturns(const std::vector<Note>& notes, const std::vector<double>& beats_s, bool compound) {
    if (beats_s.size() < kFewest || notes.size() < kFewest)
        return {};
    const auto raw = accents(notes, beats_s);
    auto x = raw;
    // That beats are marked more than what lies between them says nothing of whole beats.
    for (std::size_t part = 0; part < kHalves; ++part) {
        double sum = 0.0;
        double count = 0.0;
        for (std::size_t i = part; i < x.size(); i += kHalves, count += 1.0)
            sum += x[i];
        for (std::size_t i = part; i < x.size(); i += kHalves)
            x[i] -= sum / count;
    }
    return returnsOf(x, raw, compound);
}

Metre barsOf(const std::vector<Note>& notes, const std::vector<double>& beats_s, bool compound) {
    constexpr double kAlike = 0.4;
    constexpr double kThreesAhead = 0.02;
    constexpr double kOthersAhead = 0.4; // of what is counted seldom
    const Metre usual = compound ? Metre{6, 8} : Metre{4, 4};
    if (beats_s.size() < kFewest || notes.size() < kFewest)
        return usual;
    // Between beats in thirds there are no halves to go by.
    const auto x = accents(notes, beats_s);
    const auto all = compound ? metreReturns(notes, beats_s, true) : returnsOf(x, x, false);
    MetreReturn best = all.front();
    for (const MetreReturn& one : all) {
        const double ahead = one.metre == Metre{3, 4} ? kThreesAhead : kOthersAhead;
        if (one.metre != Metre{7, 8} && one.returns > kAlike &&
            one.returns > all.front().returns + ahead && one.returns > best.returns)
            best = one;
    }
    return best.metre;
}

MetreGuess guessMetre(const std::vector<Note>& notes, const std::vector<double>& beats_s) {
    MetreGuess guess;
    if (beats_s.size() < kFewest || notes.size() < kFewest)
        return guess;
    if (dividedInThirds(notes, beats_s)) {
        guess.metre = barsOf(notes, beats_s, true);
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
    guess.metre = barsOf(notes, beats_s, false);
    auto all = returnsOf(x, x, false);
    std::ranges::sort(all, std::ranges::greater{}, &MetreReturn::returns);
    guess.certainty = std::clamp(all[0].returns - all[1].returns, 0.0, 1.0);
    return guess;
}

} // namespace wirenote
