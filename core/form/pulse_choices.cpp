#include "form/pulse_choices.h"

#include "form/beat_levels.h"
#include "form/downbeats.h"
#include "form/metre_changes.h"
#include "form/metre_guess.h"
#include "form/steady_beats.h"
#include "piece/timeline_edits.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

namespace wirenote {
namespace {

constexpr std::size_t kFewestBeats = 6;
constexpr std::size_t kFewestAttacks = 8;

// Working figures, chosen by 25 takes; the nine others were looked at beside them (decision 0031).
constexpr double kMetreTemper = 5.0;
constexpr double kMetreAsFound = 0.8;
constexpr double kMetreSeldom = 1.5;  // five, seven, nine and twelve
constexpr double kChangesDoubt = 3.0; // so far ahead, changes are as likely as one metre …
constexpr double kChangesLeast = 2.0; // … and less is not worth a word
constexpr double kOneTemper = 0.5;
constexpr double kHalfOff = 12.0; // by how much the off-beats are more marked than the beats
constexpr double kHalfOffPrior = -2.5;

// Beats over the same time at another level; who holds them decides bars anew.
Timeline
laidAnew(const Timeline& timeline, const std::vector<Note>& notes, const BeatLevel& level) {
    Timeline laid = timeline;
    laid.pinned.clear();
    laid.divisions.clear();
    laid.beats_s = beatsAt(timeline.beats_s, level);
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

bool isSeldom(Metre metre) {
    return metre.beats > 4 && metre != Metre{6, 8};
}

// Seven eighths are counted in eighths, where quarters were heard to run over the bar line.
Timeline countedIn(Metre metre, const Timeline& timeline, const std::vector<Note>& notes) {
    Timeline counted = timeline;
    counted.metre = metre;
    if (metre.unit == 8 && !metre.compound())
        return laidAnew(counted, notes, {2.0, 0.0});
    counted.first_downbeat = likeliestDownbeat(notes, timeline.beats_s, metre.feltBeats());
    numberFrom(counted, notes.front().onset_s());
    return counted;
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
    // The best phase and feel of each tempo, in thirds and not; the present beats in any case.
    const bool compound = timeline.metre.compound();
    const auto isNow = [compound](const BeatLevel& level) {
        return level.isPresent() && level.compound() == compound;
    };
    // An even grid of halves over minutes leaves no room for one of thirds.
    const bool steady = !steadyBeats(notes, timeline.beats_s).empty();
    std::map<std::tuple<double, bool, bool>, BeatLevel> best;
    for (const BeatLevel& level : beatLevels(notes, timeline.beats_s)) {
        if (steady && level.ofThree())
            continue;
        const auto [at, first] =
            best.try_emplace({level.per_beat, level.compound(), isNow(level)}, level);
        if (!first && level.score > at->second.score)
            at->second = level;
    }
    std::vector<Scored> all;
    for (const auto& [which, level] : best) {
        Scored one;
        one.choice.now = isNow(level);
        one.choice.timeline =
            one.choice.now ? timeline : laidAnew(feltIn(timeline, level.compound()), notes, level);
        one.score = level.score + (one.choice.now ? kLevelAsHeard : 0.0);
        all.push_back(std::move(one));
    }
    return likeliestFirst(std::move(all));
}

std::vector<PulseChoice> metreChoices(const std::vector<Note>& notes, const Timeline& timeline) {
    if (!enough(notes, timeline))
        return {};
    std::vector<Scored> all;
    for (const auto& [metre, returns] :
         metreReturns(notes, timeline.beats_s, timeline.metre.compound())) {
        Scored one;
        one.choice.now = metre == timeline.metre;
        one.choice.timeline = timeline;
        if (!one.choice.now)
            one.choice.timeline = countedIn(metre, timeline, notes);
        one.score = kMetreTemper * returns + (one.choice.now ? kMetreAsFound : 0.0) -
                    (isSeldom(metre) ? kMetreSeldom : 0.0);
        all.push_back(std::move(one));
    }
    if (std::ranges::none_of(all, [](const Scored& one) { return one.choice.now; }))
        return {}; // another metre: somebody said so
    if (auto changing = changingBars(notes, timeline);
        changing && changing->ahead > kChangesLeast) {
        double one_metre = -1e300;
        for (const Scored& one : all)
            one_metre = std::max(one_metre, one.score);
        Scored changes;
        changes.choice.timeline = std::move(changing->timeline);
        changes.score = one_metre + changing->ahead - kChangesDoubt;
        all.push_back(std::move(changes));
    }
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
        half.choice.timeline = laidAnew(timeline, notes, {1.0, 0.5});
        half.choice.timeline.swing = timeline.swing;
        half.score =
            on_it + kHalfOffPrior + kHalfOff * (offBeatStress(notes, timeline.beats_s) - 1.0);
        all.push_back(std::move(half));
    }
    return likeliestFirst(std::move(all));
}

} // namespace wirenote
