#include "hearing/tuning_guess.h"

#include "piece/one_stroke.h"

#include <algorithm>
#include <cmath>

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

// How often a place is played, by its fret: open and low frets most (working figures).
double weightOfFret(int fret) {
    if (fret == 0)
        return 4.0;
    return fret <= 4 ? 1.6 : fret <= 7 ? 0.8 : fret <= 12 ? 0.35 : 0.1;
}

double weightOf(const Instrument& instrument, int midi) {
    double weight = 0.0;
    for (int string = 1; string <= instrument.stringCount(); ++string)
        if (const int fret = instrument.fretFor(string, midi); fret >= 0)
            weight = std::max(weight, weightOfFret(fret));
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
constexpr double kOffNeck = -4.0; // of the logarithm, for a note that cannot be played so

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

PitchCounts countsOf(const std::vector<Note>& notes) {
    PitchCounts counts;
    for (std::size_t i = 0; i < notes.size(); ++i) {
        const int midi = notes[i].midi();
        if (!notes[i].pitched() || midi < 0 || midi >= 128)
            continue;
        ++counts.notes[static_cast<std::size_t>(midi)];
        counts.evidence[static_cast<std::size_t>(midi)] += ringsOn(notes, i) ? 2 : 1;
    }
    return counts;
}

// The logarithm of how likely these notes are on this neck; fills in what the guess tells of them.
double scoreOf(TuningGuess& guess, const PitchCounts& counts) {
    double total = 0.0; // all pitches of the neck, so that weights become probabilities
    for (int midi = 0; midi < 128; ++midi)
        total += weightOf(guess.instrument, midi);
    double score = std::log(guess.probability);
    for (int midi = 0; midi < 128; ++midi) {
        const int n = counts.notes[static_cast<std::size_t>(midi)];
        if (n == 0)
            continue;
        guess.notes += n;
        if (guess.lowest_midi == 0)
            guess.lowest_midi = midi;
        const double weight = weightOf(guess.instrument, midi);
        guess.open_notes += isOpen(guess.instrument, midi) ? n : 0;
        guess.off_neck += weight <= 0.0 ? n : 0;
        const double evidence = weight > 0.0 ? std::log(weight / total) + 3.5 : kOffNeck;
        score += kTemper * evidence *
                 std::log2(1.0 + counts.evidence[static_cast<std::size_t>(midi)]);
    }
    return score;
}

} // namespace

std::vector<TuningGuess> guessTuning(const Instrument& like, const std::vector<Note>& notes) {
    if (notes.empty())
        return {};
    const PitchCounts counts = countsOf(notes);
    auto guesses = namedTunings(like);
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
