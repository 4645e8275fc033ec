#include "music/scales.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace wirenote {
namespace {

constexpr PitchClasses kMajor = {
    6.35, 2.23, 3.48, 2.33, 4.38, 4.09, 2.52, 5.19, 2.39, 3.66, 2.29, 2.88};
constexpr PitchClasses kMinor = {
    6.33, 2.68, 3.52, 5.38, 2.60, 3.53, 2.54, 4.75, 3.98, 2.69, 3.34, 3.17};

// Of the weights, seen from a tonic, with a profile.
double correlation(const PitchClasses& weights, const PitchClasses& profile, std::size_t tonic) {
    const double mean_w = std::accumulate(weights.begin(), weights.end(), 0.0) / 12.0;
    const double mean_p = std::accumulate(profile.begin(), profile.end(), 0.0) / 12.0;
    double both = 0.0;
    double ww = 0.0;
    double pp = 0.0;
    for (std::size_t i = 0; i < 12; ++i) {
        const double w = weights[(tonic + i) % 12] - mean_w;
        const double p = profile[i] - mean_p;
        both += w * p;
        ww += w * w;
        pp += p * p;
    }
    return ww > 0.0 ? both / std::sqrt(ww * pp) : 0.0;
}

double shareInside(const PitchClasses& weights, const Scale& scale) {
    double inside = 0.0;
    double all = 0.0;
    for (int pc = 0; pc < 12; ++pc) {
        const double w = weights[static_cast<std::size_t>(pc)];
        all += w;
        inside += scale.has(pc) ? w : 0.0;
    }
    return all > 0.0 ? inside / all : 0.0;
}

} // namespace

std::vector<KeyGuess> keysOf(const PitchClasses& weights) {
    std::vector<KeyGuess> keys;
    if (std::ranges::all_of(weights, [](double w) { return w <= 0.0; }))
        return keys;
    for (int tonic = 0; tonic < 12; ++tonic)
        for (const bool minor : {false, true})
            keys.push_back(
                {tonic,
                 minor,
                 correlation(weights, minor ? kMinor : kMajor, static_cast<std::size_t>(tonic))});
    std::ranges::stable_sort(keys, std::ranges::greater{}, &KeyGuess::fit);
    return keys;
}

const std::vector<int>& scaleSteps(ScaleKind kind) {
    static const std::array<std::vector<int>, 10> kSteps = {{{0, 2, 4, 5, 7, 9, 11},
                                                             {0, 2, 3, 5, 7, 8, 10},
                                                             {0, 2, 3, 5, 7, 8, 11},
                                                             {0, 2, 3, 5, 7, 9, 10},
                                                             {0, 1, 3, 5, 7, 8, 10},
                                                             {0, 2, 4, 6, 7, 9, 11},
                                                             {0, 2, 4, 5, 7, 9, 10},
                                                             {0, 2, 4, 7, 9},
                                                             {0, 3, 5, 7, 10},
                                                             {0, 3, 5, 6, 7, 10}}};
    return kSteps[static_cast<std::size_t>(kind)];
}

bool Scale::has(int midi) const {
    const int above = ((midi - tonic) % 12 + 12) % 12;
    return std::ranges::find(scaleSteps(kind), above) != scaleSteps(kind).end();
}

Scale scaleOf(const PitchClasses& weights, const KeyGuess& key) {
    constexpr double kAll = 0.985; // a passing note does not make another scale
    static const std::vector<ScaleKind> kMajors = {
        ScaleKind::MajorPentatonic, ScaleKind::Major, ScaleKind::Mixolydian, ScaleKind::Lydian};
    static const std::vector<ScaleKind> kMinors = {ScaleKind::MinorPentatonic,
                                                   ScaleKind::Blues,
                                                   ScaleKind::NaturalMinor,
                                                   ScaleKind::HarmonicMinor,
                                                   ScaleKind::Dorian,
                                                   ScaleKind::Phrygian};
    const bool few = std::ranges::count_if(weights, [](double w) { return w > 0.0; }) < 4;
    Scale best{key.tonic, key.minor ? ScaleKind::NaturalMinor : ScaleKind::Major};
    double most = -1.0;
    for (const ScaleKind kind : key.minor ? kMinors : kMajors) {
        if (few && scaleSteps(kind).size() < 7)
            continue;
        const Scale scale{key.tonic, kind};
        const double share = shareInside(weights, scale);
        if (share >= kAll)
            return scale;
        if (share > most + 1e-9) {
            most = share;
            best = scale;
        }
    }
    return best;
}

std::string pitchClassName(int pitch_class, Spelling spelling) {
    std::string name = pitchName(60 + pitch_class, spelling);
    name.pop_back(); // the octave
    return name;
}

} // namespace wirenote
