#include "hearing/tuning_guess.h"

#include "piece/one_stroke.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <iterator>

namespace wirenote {
namespace {

// Common practice: the tunings players name, by their distance from the usual one, thickest string
// first, and how often they are met (working figures).
struct Named {
    const char* name;
    std::vector<int> shift;
    int capo;
    double prior;
};

const std::vector<Named>& guitarTunings() {
    static const std::vector<Named> kTunings = {
        {"standard", {0, 0, 0, 0, 0, 0}, 0, 0.60},
        {"half-step-down", {-1, -1, -1, -1, -1, -1}, 0, 0.08},
        {"whole-step-down", {-2, -2, -2, -2, -2, -2}, 0, 0.06},
        {"dropped-low-string", {-2, 0, 0, 0, 0, 0}, 0, 0.10},
        {"dropped-both-ends", {-2, 0, 0, 0, 0, -2}, 0, 0.01},
        {"d-a-d-g-a-d", {-2, 0, 0, 0, -2, -2}, 0, 0.02},
        {"open-g", {-2, -2, 0, 0, 0, -2}, 0, 0.02},
        {"open-d", {-2, 0, 0, -1, -2, -2}, 0, 0.02},
        {"capo", {0, 0, 0, 0, 0, 0}, 1, 0.01},
        {"capo", {0, 0, 0, 0, 0, 0}, 2, 0.02},
        {"capo", {0, 0, 0, 0, 0, 0}, 3, 0.02},
        {"capo", {0, 0, 0, 0, 0, 0}, 4, 0.01},
        {"capo", {0, 0, 0, 0, 0, 0}, 5, 0.01},
        {"capo", {0, 0, 0, 0, 0, 0}, 7, 0.01},
    };
    return kTunings;
}

const std::vector<Named>& bassTunings() {
    static const std::vector<Named> kTunings = {
        {"standard", {0, 0, 0, 0}, 0, 0.80},
        {"half-step-down", {-1, -1, -1, -1}, 0, 0.06},
        {"whole-step-down", {-2, -2, -2, -2}, 0, 0.05},
        {"dropped-low-string", {-2, 0, 0, 0}, 0, 0.09},
    };
    return kTunings;
}

// A way of playing on a neck: about the open strings, or in a position higher up (working figures).
struct Manner {
    int position; // 0: open strings and low frets
    double prior;
};
constexpr std::array<Manner, 5> kManners = {{{0, 0.6}, {3, 0.1}, {5, 0.1}, {7, 0.1}, {10, 0.1}}};

// How often a place is played, by its fret (working figures).
double weightOfFret(int fret, int position) {
    if (position == 0)
        return fret == 0 ? 3.0 : fret <= 4 ? 1.6 : fret <= 7 ? 1.0 : fret <= 12 ? 0.7 : 0.35;
    if (fret == 0)
        return 0.7;
    return fret >= position && fret <= position + 4 ? 1.6
           : std::abs(fret - position) <= 6         ? 0.7
                                                    : 0.35;
}

double weightOf(const Instrument& instrument, int midi, int position) {
    double weight = 0.0;
    for (int string = 1; string <= instrument.stringCount(); ++string)
        if (const int fret = instrument.fretFor(string, midi); fret >= 0)
            weight = std::max(weight, weightOfFret(fret, position));
    return weight;
}

bool isOpen(const Instrument& instrument, int midi) {
    for (int string = 1; string <= instrument.stringCount(); ++string)
        if (instrument.fretFor(string, midi) == 0)
            return true;
    return false;
}

// Notes of one line say the same thing again and again: their log-likelihoods are tempered, and
// each pitch counts by the logarithm of how often it comes.
constexpr double kTemper = 0.75;
constexpr double kOffNeck = -4.0; // of the logarithm, for a note that cannot be played so …
constexpr double kBelow = -7.0; // … and for one that is too low: no finger makes a string longer

// It goes on sounding well into the next stroke: open strings do, fretted ones are let go.
bool ringsOn(const std::vector<Note>& notes, std::size_t i) {
    constexpr double kInto_s = 0.15;
    for (std::size_t j = i + 1; j < notes.size(); ++j)
        if (!beginTogether(notes[j - 1].onset_s(), notes[j].onset_s()))
            return notes[i].offset_s() > notes[j].onset_s() + kInto_s;
    return false;
}

} // namespace

std::vector<TuningGuess> namedTunings(const Instrument& like) {
    std::vector<TuningGuess> found;
    const Instrument usual = standardInstrument(like.kind);
    static const std::vector<Named> kOnlyStandard = {{"standard", {}, 0, 1.0}};
    const auto& named = usual.stringCount() == 6   ? guitarTunings()
                        : usual.stringCount() == 4 ? bassTunings()
                                                   : kOnlyStandard;
    for (const Named& tuning : named) {
        TuningGuess guess;
        guess.name = tuning.name;
        guess.instrument = like;
        guess.instrument.strings = usual.strings;
        for (std::size_t i = 0; i < tuning.shift.size(); ++i)
            guess.instrument.strings[tuning.shift.size() - 1 - i].open_midi += tuning.shift[i];
        for (std::size_t i = 0; i < usual.strings.size() && i < like.strings.size(); ++i) {
            guess.instrument.strings[i].gauge_mm = like.strings[i].gauge_mm;
            guess.instrument.strings[i].material = like.strings[i].material;
        }
        guess.instrument.capo = tuning.capo;
        guess.probability = tuning.prior;
        found.push_back(std::move(guess));
    }
    return found;
}

namespace {

// How often each pitch comes; `evidence` counts a note that rings on twice: it tells of an open
// string.
struct PitchCounts {
    std::vector<int> notes = std::vector<int>(128, 0);
    std::vector<int> evidence = std::vector<int>(128, 0);
};

PitchCounts countsOf(const std::vector<Note>& notes, const std::vector<NearMiss>& below) {
    PitchCounts counts;
    for (const NearMiss& miss : below) {
        ++counts.notes[static_cast<std::size_t>(miss.midi)];
        ++counts.evidence[static_cast<std::size_t>(miss.midi)];
    }
    for (std::size_t i = 0; i < notes.size(); ++i) {
        const int midi = notes[i].midi();
        if (!notes[i].pitched() || midi < 0 || midi >= 128)
            continue;
        ++counts.notes[static_cast<std::size_t>(midi)];
        counts.evidence[static_cast<std::size_t>(midi)] += ringsOn(notes, i) ? 2 : 1;
    }
    return counts;
}

// The logarithm of how likely these notes are, played in one manner on this neck.
double scoreOf(const Instrument& instrument, const PitchCounts& counts, Manner manner) {
    double total = 0.0; // all pitches of the neck, so that weights become probabilities
    for (int midi = 0; midi < 128; ++midi)
        total += weightOf(instrument, midi, manner.position);
    double score = std::log(manner.prior);
    for (int midi = 0; midi < 128; ++midi) {
        const int n = counts.evidence[static_cast<std::size_t>(midi)];
        if (n == 0)
            continue;
        const double weight = weightOf(instrument, midi, manner.position);
        const double evidence = weight > 0.0                     ? std::log(weight / total) + 3.5
                                : midi < instrument.lowestMidi() ? kBelow
                                                                 : kOffNeck;
        score += kTemper * evidence * std::log2(1.0 + n);
    }
    return score;
}

// The same in any manner; fills in what the guess tells of the notes.
double scoreOf(TuningGuess& guess, const PitchCounts& counts) {
    for (int midi = 0; midi < 128; ++midi) {
        const int n = counts.notes[static_cast<std::size_t>(midi)];
        if (n == 0)
            continue;
        guess.notes += n;
        if (guess.lowest_midi == 0)
            guess.lowest_midi = midi;
        guess.open_notes += isOpen(guess.instrument, midi) ? n : 0;
        guess.off_neck += weightOf(guess.instrument, midi, 0) <= 0.0 ? n : 0;
    }
    double best = -1e300;
    std::array<double, kManners.size()> scores{};
    for (std::size_t m = 0; m < kManners.size(); ++m) {
        scores[m] = scoreOf(guess.instrument, counts, kManners[m]);
        best = std::max(best, scores[m]);
    }
    double sum = 0.0;
    for (const double score : scores)
        sum += std::exp(score - best);
    return std::log(guess.probability) + best + std::log(sum);
}

} // namespace

namespace {

// Of what is otherwise thought of it (working figures).
double priorOf(InstrumentKind kind) {
    return kind == InstrumentKind::Bass ? 0.2 : 0.04;
}

// What sounds lower than the neck, where it is more than a slip of the ear.
std::vector<NearMiss> belowNeck(const Instrument& instrument,
                                const std::vector<Note>& notes,
                                const std::vector<NearMiss>& misses) {
    constexpr double kLeastShare = 0.03; // of the notes
    constexpr std::size_t kFewest = 2;
    std::vector<NearMiss> below;
    for (const NearMiss& miss : misses)
        if (miss.midi >= 0 && miss.midi < instrument.lowestMidi())
            below.push_back(miss);
    const auto least = static_cast<std::size_t>(kLeastShare * static_cast<double>(notes.size()));
    if (below.size() < std::max(kFewest, least))
        below.clear();
    return below;
}

std::vector<TuningGuess> lowerKinds(const Instrument& like) {
    std::vector<TuningGuess> guesses;
    for (const InstrumentKind kind :
         {InstrumentKind::Guitar7, InstrumentKind::Bass, InstrumentKind::Bass5})
        if (const Instrument other = standardInstrument(kind);
            kind != like.kind && other.lowestMidi() < standardInstrument(like.kind).lowestMidi())
            for (TuningGuess& guess : namedTunings(other)) {
                guess.probability *= priorOf(kind);
                guesses.push_back(std::move(guess));
            }
    return guesses;
}

} // namespace

std::vector<TuningGuess> guessTuning(const Instrument& like,
                                     const std::vector<Note>& notes,
                                     const std::vector<NearMiss>& misses) {
    if (notes.empty())
        return {};
    const auto below = belowNeck(like, notes, misses);
    const PitchCounts counts = countsOf(notes, below);
    auto guesses = namedTunings(like);
    // An overdriven amplifier makes a few low tones of its own.
    constexpr double kOfManyNotes = 0.12;
    if (static_cast<double>(below.size()) > kOfManyNotes * static_cast<double>(notes.size()))
        std::ranges::move(lowerKinds(like), std::back_inserter(guesses));
    double best = -1e300;
    std::vector<double> scores;
    for (TuningGuess& guess : guesses) {
        scores.push_back(scoreOf(guess, counts));
        best = std::max(best, scores.back());
    }
    double sum = 0.0;
    for (std::size_t i = 0; i < guesses.size(); ++i)
        sum += guesses[i].probability = std::exp(scores[i] - best);
    for (TuningGuess& guess : guesses)
        guess.probability /= sum;
    std::stable_sort(
        guesses.begin(), guesses.end(), [](const TuningGuess& a, const TuningGuess& b) {
            return a.probability > b.probability;
        });
    return guesses;
}

} // namespace wirenote
