#include "form/pulse_choices.h"

#include "base/interpolate.h"
#include "form/downbeats.h"
#include "form/metre_guess.h"
#include "piece/one_stroke.h"
#include "piece/timeline_edits.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <optional>
#include <span>

namespace wirenote {
namespace {

constexpr std::size_t kFewestBeats = 6;
constexpr std::size_t kFewestAttacks = 8;

// Working figures, chosen by 25 takes; the nine others were looked at beside them (decision 0031).
constexpr double kUsual_bpm = 115.0;
constexpr double kWidth_octaves = 0.5;
constexpr double kAsFound = 1.2;    // for the level that was found in the sound, as a logarithm
constexpr double kInThirds = -1.5;  // for beats felt in thirds
constexpr double kShaky_s = 0.02;   // of a player's attacks
constexpr double kElsewhere = 0.05; // share of attacks that fall on no division
constexpr double kTemper = 0.25;    // attacks of one rhythm say the same again and again
constexpr double kMostAttacks = 24.0;
constexpr double kSlowest_bpm = 40.0;
constexpr double kFastest_bpm = 220.0;
constexpr double kMetreTemper = 5.0;
constexpr double kMetreAsFound = 0.8;
constexpr double kOneTemper = 0.5;
constexpr double kHalfOff = 12.0; // by how much the off-beats are more marked than the beats
constexpr double kHalfOffPrior = -2.5;

struct Division {
    double at; // of the beat
    double share;
};
constexpr std::array<Division, 6> kInHalves = {
    {{0.0, 0.50}, {0.5, 0.26}, {0.25, 0.06}, {0.75, 0.06}, {1.0 / 3.0, 0.03}, {2.0 / 3.0, 0.04}}};
constexpr std::array<Division, 6> kInThirdsOfIt = {{{0.0, 0.42},
                                                    {1.0 / 3.0, 0.20},
                                                    {2.0 / 3.0, 0.22},
                                                    {1.0 / 6.0, 0.02},
                                                    {0.5, 0.03},
                                                    {5.0 / 6.0, 0.03}}};

// Where strokes fall, counted in the present beats.
std::vector<double> attacksInBeats(const std::vector<Note>& notes,
                                   const std::vector<double>& beats_s) {
    std::vector<double> at;
    double before_s = -1.0;
    for (const Note& note : notes) {
        const double t = note.onset_s();
        if (note.slurred() || note.has(Technique::GhostStroke) || beginTogether(before_s, t))
            continue;
        before_s = t;
        if (t >= beats_s.front() - 0.05 && t < beats_s.back())
            at.push_back(placeAmong(beats_s, t));
    }
    return at;
}

// The mean logarithm of how likely the attacks are on beats of `beat_s`, `per_beat` of them in each
// of the present ones, the first of them `phase` of its own before a present one.
double fitOf(std::span<const double> attacks,
             double per_beat,
             double phase,
             double beat_s,
             std::span<const Division> divisions) {
    const double peak = 1.0 / (kShaky_s * std::sqrt(2.0 * std::numbers::pi));
    double sum = 0.0;
    for (const double attack : attacks) {
        const double at = attack * per_beat + phase;
        const double part = at - std::floor(at);
        double density = kElsewhere / beat_s;
        for (const Division& division : divisions) {
            const double away = std::abs(part - division.at);
            const double off_s = std::min(away, 1.0 - away) * beat_s;
            density += division.share * peak * std::exp(-0.5 * std::pow(off_s / kShaky_s, 2));
        }
        sum += std::log(density * beat_s); // a level with more beats has more places for each
    }
    return sum / static_cast<double>(attacks.size());
}

struct Level {
    double per_beat; // new beats in one of the present
    int phases;      // how many ways they can lie against the present ones
};
constexpr std::array<Level, 7> kLevels = {
    {{1.0, 1}, {2.0, 1}, {0.5, 2}, {1.5, 2}, {2.0 / 3.0, 3}, {4.0 / 3.0, 3}, {0.75, 4}}};

struct PhaseFit {
    double phase = 0.0;
    double fit = -1e300;
};

// How the beats of a level lie best under the attacks.
PhaseFit bestPhase(std::span<const double> attacks, Level level, double beat_s, bool thirds) {
    PhaseFit best;
    for (int k = 0; k < level.phases; ++k) {
        const double phase = static_cast<double>(k) / level.phases;
        const double fit = fitOf(attacks,
                                 level.per_beat,
                                 phase,
                                 beat_s,
                                 thirds ? std::span(kInThirdsOfIt) : std::span(kInHalves));
        if (fit > best.fit)
            best = {phase, fit};
    }
    return best;
}

double timeAt(const std::vector<double>& beats_s, double place) {
    const auto last = static_cast<double>(beats_s.size() - 1);
    if (place <= 0.0)
        return beats_s.front() + place * (beats_s[1] - beats_s[0]);
    if (place >= last)
        return beats_s.back() + (place - last) * (beats_s.back() - beats_s[beats_s.size() - 2]);
    const auto i = std::min(static_cast<std::size_t>(place), beats_s.size() - 2);
    return beats_s[i] + (place - static_cast<double>(i)) * (beats_s[i + 1] - beats_s[i]);
}

// Beats over the same time at another level; who holds them decides bars anew.
Timeline
laidAnew(const Timeline& timeline, const std::vector<Note>& notes, Level level, double phase) {
    Timeline laid = timeline;
    laid.beats_s.clear();
    laid.pinned.clear();
    laid.divisions.clear();
    const auto last = static_cast<double>(timeline.beats_s.size() - 1);
    for (double k = 0.0; (k - phase) / level.per_beat <= last + 1e-6; k += 1.0)
        if (const double t = timeAt(timeline.beats_s, (k - phase) / level.per_beat); t >= 0.0)
            laid.beats_s.push_back(t);
    laid.swing = 1.0;
    laid.tempo_bpm = middleTempo(laid);
    laid.first_downbeat = likeliestDownbeat(notes, laid.beats_s, laid.metre.feltBeats());
    numberFrom(laid, notes.front().onset_s());
    return laid;
}

Timeline feltIn(Timeline timeline, bool thirds) {
    if (thirds != timeline.metre.compound())
        timeline.metre = thirds ? Metre{6, 8} : Metre{4, 4};
    return timeline;
}

struct Scored {
    PulseChoice choice;
    double score = 0.0;
};

std::vector<PulseChoice> likeliestFirst(std::vector<Scored> all) {
    double best = -1e300;
    for (const Scored& one : all)
        best = std::max(best, one.score);
    double sum = 0.0;
    for (const Scored& one : all)
        sum += std::exp(one.score - best);
    std::vector<PulseChoice> choices;
    for (Scored& one : all) {
        one.choice.probability = std::exp(one.score - best) / sum;
        choices.push_back(std::move(one.choice));
    }
    std::ranges::stable_sort(choices, std::ranges::greater{}, &PulseChoice::probability);
    return choices;
}

bool enough(const std::vector<Note>& notes, const Timeline& timeline) {
    return timeline.beats_s.size() >= kFewestBeats && notes.size() >= kFewestAttacks &&
           timeline.changes.empty();
}

} // namespace

std::vector<PulseChoice> tempoChoices(const std::vector<Note>& notes, const Timeline& timeline) {
    if (!enough(notes, timeline))
        return {};
    const auto attacks = attacksInBeats(notes, timeline.beats_s);
    if (attacks.size() < kFewestAttacks)
        return {};
    const double beat_s = 60.0 / middleTempo(timeline);
    const double count = std::min(kMostAttacks, static_cast<double>(attacks.size()));
    std::vector<Scored> all;
    for (const Level& level : kLevels) {
        const double bpm = 60.0 / beat_s * level.per_beat;
        const bool present = level.per_beat == 1.0;
        if (!present && (bpm < kSlowest_bpm || bpm > kFastest_bpm))
            continue;
        const double octaves = std::log2(bpm / kUsual_bpm) / kWidth_octaves;
        for (const bool thirds : {false, true}) {
            const PhaseFit best = bestPhase(attacks, level, beat_s / level.per_beat, thirds);
            Scored one;
            one.choice.now = present && thirds == timeline.metre.compound();
            one.choice.timeline =
                one.choice.now ? timeline
                               : laidAnew(feltIn(timeline, thirds), notes, level, best.phase);
            one.score = kTemper * count * best.fit - 0.5 * octaves * octaves +
                        (one.choice.now ? kAsFound : 0.0) + (thirds ? kInThirds : 0.0);
            all.push_back(std::move(one));
        }
    }
    return likeliestFirst(std::move(all));
}

std::vector<PulseChoice> metreChoices(const std::vector<Note>& notes, const Timeline& timeline) {
    if (!enough(notes, timeline) || timeline.metre.compound())
        return {};
    const auto returns = metreReturns(notes, timeline.beats_s);
    if (!returns)
        return {};
    std::vector<Scored> all;
    for (const Metre metre : {Metre{4, 4}, Metre{3, 4}}) {
        Scored one;
        one.choice.now = metre == timeline.metre;
        one.choice.timeline = timeline;
        if (!one.choice.now) {
            one.choice.timeline.metre = metre;
            one.choice.timeline.first_downbeat =
                likeliestDownbeat(notes, timeline.beats_s, metre.feltBeats());
            numberFrom(one.choice.timeline, notes.front().onset_s());
        }
        one.score = kMetreTemper * (metre.beats == 3 ? returns->threes : returns->fours) +
                    (one.choice.now ? kMetreAsFound : 0.0);
        all.push_back(std::move(one));
    }
    if (std::ranges::none_of(all, [](const Scored& one) { return one.choice.now; }))
        return {}; // another metre: somebody said so
    return likeliestFirst(std::move(all));
}

std::vector<PulseChoice> oneChoices(const std::vector<Note>& notes, const Timeline& timeline) {
    const int beats = timeline.metre.feltBeats();
    if (!enough(notes, timeline) || beats < 2)
        return {};
    const auto scores = downbeatScores(notes, timeline.beats_s, beats);
    const auto now = static_cast<std::size_t>(((timeline.first_downbeat % beats) + beats) % beats);
    std::vector<Scored> all;
    for (std::size_t k = 0; k < scores.size(); ++k) {
        Scored one;
        one.choice.now = k == now;
        one.choice.timeline = timeline;
        if (!one.choice.now) {
            one.choice.timeline.first_downbeat = static_cast<int>(k);
            numberFrom(one.choice.timeline, notes.front().onset_s());
        }
        one.score = kOneTemper * scores[k];
        all.push_back(std::move(one));
    }
    if (!timeline.metre.compound()) {
        double on_it = -1e300;
        for (const Scored& one : all)
            on_it = std::max(on_it, one.score);
        Scored half;
        half.choice.timeline = laidAnew(timeline, notes, {1.0, 2}, 0.5);
        half.choice.timeline.swing = timeline.swing;
        half.score =
            on_it + kHalfOffPrior + kHalfOff * (offBeatStress(notes, timeline.beats_s) - 1.0);
        all.push_back(std::move(half));
    }
    return likeliestFirst(std::move(all));
}

} // namespace wirenote
