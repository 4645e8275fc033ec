#include "form/other_tone.h"

#include "base/median.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

// How far a figure may lie off in the middle (working figures): plucked half as far again from the
// bridge, six decibels an octave.
struct Limit {
    ToneFigure figure;
    double most;
};
constexpr Limit kLimits[] = {{ToneFigure::Comb, 0.5}, {ToneFigure::Tilt, 6.0}};
constexpr std::size_t kFewest = 8;
constexpr double kSurely = 3.0; // standard errors of a median beyond chance

// How much higher a figure is in the playing, in the middle of the notes that tell it twice, and
// how sure that is: 0 where it is no other.
double otherwise(const std::vector<double>& differences, double most) {
    if (differences.size() < kFewest)
        return 0.0;
    std::vector<double> sorted = differences;
    const double middle = *median(sorted);
    std::vector<double> off;
    for (const double d : differences)
        off.push_back(std::abs(d - middle));
    const double error =
        1.25 * 1.4826 * *median(off) / std::sqrt(static_cast<double>(differences.size()));
    return std::abs(middle) > most && std::abs(middle) > kSurely * error ? middle : 0.0;
}

// In a chord the partials of other strings are taken for its own.
bool isAlone(const std::vector<Note>& notes, std::size_t i) {
    constexpr double kTogether_s = 0.05;
    const double at_s = notes[i].onset_s();
    return (i == 0 || at_s - notes[i - 1].onset_s() > kTogether_s) &&
           (i + 1 == notes.size() || notes[i + 1].onset_s() - at_s > kTogether_s);
}

bool soundsOtherwise(const Piece& piece, const std::vector<Note>& played, const Version& version) {
    return std::ranges::any_of(kLimits, [&](const Limit& limit) {
        const auto figure = static_cast<std::size_t>(limit.figure);
        std::vector<double> differences;
        for (const Version::Same& same : version.same) {
            if (same.played >= played.size() || !isAlone(piece.notes, same.note) ||
                !isAlone(played, same.played))
                continue;
            const Measure ours = piece.notes[same.note].heard().tone[figure];
            const Measure theirs = played[same.played].heard().tone[figure];
            if (ours.told() && theirs.told())
                differences.push_back(theirs.value - ours.value);
        }
        return otherwise(differences, limit.most) != 0.0;
    });
}

} // namespace

void doubtOtherTone(Piece& piece,
                    const std::map<std::size_t, std::vector<Note>>& heard,
                    const std::vector<Version>& versions) {
    for (const Version& version : versions) {
        if (!version.demonstration || !version.learn)
            continue;
        const auto others = heard.find(version.take);
        if (version.take > 0 && others == heard.end())
            continue;
        Demonstration& shown = piece.takes[version.take].demonstrations[*version.demonstration];
        if (!shown.learn.isSet() &&
            soundsOtherwise(piece, version.take == 0 ? piece.notes : others->second, version)) {
            shown.learn.value = false;
            shown.learn.basis = Basis::Heard;
            shown.learn.probability = 0.7;
        }
    }
}

} // namespace wirenote
