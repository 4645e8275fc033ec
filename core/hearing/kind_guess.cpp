#include "hearing/kind_guess.h"

#include "base/median.h"
#include "base/small_network.h"
#include "hearing/attack_picture.h"
#include "hearing/chords.h"
#include "hearing/kind_weights.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

namespace wirenote {
namespace {

constexpr std::size_t kMostStrokes = 60;
constexpr std::size_t kLeastStrokes = 8;
// Rows from a pitch's own to those of 1 to 16 times it.
constexpr std::array kPartialRows = {
    0, 36, 57, 72, 84, 93, 101, 108, 114, 120, 125, 129, 133, 137, 141, 144};
constexpr std::size_t kPartials = kPartialRows.size();
constexpr std::array kKinds = {
    InstrumentKind::Guitar, InstrumentKind::Acoustic, InstrumentKind::Nylon};
// The spectra of a picture.
constexpr std::size_t kAfter = 2;
constexpr std::size_t kLater = 3;
constexpr std::size_t kStroke = 5; // short ones: at once, and a little later
constexpr std::size_t kSettled = 6;

constexpr double kUntold = std::numeric_limits<double>::quiet_NaN();
using Levels = std::array<double, kPartials>; // dB above the bottom of the picture

double levelAt(const AttackPicture& picture, std::size_t spectrum, int row) {
    return row >= 0 && row < kPictureRows
               ? kPictureDepth_db * picture.levels[spectrum][static_cast<std::size_t>(row)]
               : 0.0;
}

Levels partials(const AttackPicture& picture, std::size_t spectrum, int own) {
    Levels levels{};
    for (std::size_t k = 0; k < kPartials; ++k)
        for (const int off : {-1, 0, 1})
            levels[k] =
                std::max(levels[k], levelAt(picture, spectrum, own + kPartialRows[k] + off));
    return levels;
}

// Half way to the next partial: what is no tone.
Levels between(const AttackPicture& picture, std::size_t spectrum, int own) {
    Levels levels{};
    for (std::size_t k = 0; k < kPartials; ++k) {
        const int up = k + 1 < kPartials ? (kPartialRows[k + 1] - kPartialRows[k]) / 2 : 2;
        levels[k] = levelAt(picture, spectrum, own + kPartialRows[k] + up);
    }
    return levels;
}

std::array<double, kKindFigures> figuresOf(const AttackPicture& picture, int midi) {
    const int own = (midi - kPictureLowestMidi) * kRowsPerSemitone + 1;
    const Levels after = partials(picture, kAfter, own);
    const Levels later = partials(picture, kLater, own);
    const Levels stroke = partials(picture, kStroke, own);
    const Levels settled = partials(picture, kSettled, own);
    const Levels stroke_noise = between(picture, kStroke, own);
    const Levels noise = between(picture, kAfter, own);
    const double loudest = *std::ranges::max_element(after);
    const double loudest_stroke = *std::ranges::max_element(stroke);
    // Where the next stroke comes too soon nothing tells how they die away.
    const bool dies = *std::ranges::max_element(later) > 0.0;
    std::array<double, kKindFigures> figures{};
    for (std::size_t k = 0; k < kPartials; ++k) {
        figures[k] = after[k] - loudest;
        figures[kPartials + k] = dies ? later[k] - after[k] : kUntold;
        figures[2 * kPartials + k] = stroke[k] - loudest_stroke;
        figures[3 * kPartials + k] = stroke_noise[k] - loudest_stroke;
        figures[4 * kPartials + k] = noise[k] - loudest;
        figures[5 * kPartials + k] = settled[k] - stroke[k];
    }
    figures[6 * kPartials] = midi / 12.0;
    return figures;
}

// The lowest note that begins at an attack.
std::optional<int> lowestAt(const AttackMoment& attack, const std::vector<Note>& notes) {
    constexpr double kEarly_s = 0.035;
    constexpr double kLate_s = 0.06;
    std::optional<int> lowest;
    for (auto note = std::ranges::lower_bound(notes, attack.first_s - kEarly_s, {}, &Note::onset_s);
         note != notes.end() && note->onset_s() < attack.last_s + kLate_s;
         ++note)
        if (note->pitched())
            lowest = std::min(lowest.value_or(note->midi()), note->midi());
    return lowest;
}

std::vector<KindGuess> believed(const std::array<float, kKindFigures>& figures) {
    std::vector<KindGuess> guesses;
    double sum = 0.0;
    for (std::size_t k = 0; k < kKinds.size(); ++k) {
        const double odds = networkOdds(figures,
                                        kKindMeans,
                                        kKindScatter,
                                        kKindFirst,
                                        kKindFirstBias,
                                        kKindLast[k],
                                        kKindLastBias[k]);
        guesses.push_back({kKinds[k], std::exp(kKindTemper * odds)});
        sum += guesses.back().probability;
    }
    for (KindGuess& guess : guesses)
        guess.probability /= sum;
    std::ranges::stable_sort(guesses, std::ranges::greater{}, &KindGuess::probability);
    return guesses;
}

} // namespace

Result<std::vector<KindGuess>> guessKind(SoundView sound,
                                         const Instrument& instrument,
                                         double a4_hz,
                                         const std::vector<OnsetPeak>& onsets,
                                         const std::vector<Note>& notes,
                                         const JobControl& job) {
    struct Struck {
        AttackMoment attack;
        int midi = 60;
    };
    std::vector<Struck> strokes;
    if (!instrument.isBass())
        for (const AttackMoment& attack :
             attackMoments(onsets, ChordParameters{}.event_s, sound.length_s()))
            if (const auto midi = lowestAt(attack, notes))
                strokes.push_back({attack, *midi});
    if (strokes.size() < kLeastStrokes)
        return std::vector<KindGuess>{};
    std::array<std::vector<double>, kKindFigures> all;
    AttackPictures pictures(sound);
    const std::size_t step = (strokes.size() + kMostStrokes - 1) / kMostStrokes;
    for (std::size_t i = 0; i < strokes.size(); i += step) {
        if (job.cancelRequested())
            return cancelled();
        const auto figures = figuresOf(pictures.at(strokes[i].attack, a4_hz), strokes[i].midi);
        for (std::size_t f = 0; f < kKindFigures; ++f)
            if (!std::isnan(figures[f]))
                all[f].push_back(figures[f]);
    }
    std::array<float, kKindFigures> middle{};
    for (std::size_t f = 0; f < kKindFigures; ++f)
        middle[f] = all[f].empty() ? kKindMeans[f] : static_cast<float>(*median(all[f]));
    return believed(middle);
}

} // namespace wirenote
